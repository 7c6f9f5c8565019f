"""The web face of Glad Stack: thin routes that parse, call and answer."""
