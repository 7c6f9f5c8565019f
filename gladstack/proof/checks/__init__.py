"""The checks, one file each; gladstack/proof/registry.py lists them."""
