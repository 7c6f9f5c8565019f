"""Files: sheets in their formats, and what other programs are told of plans and designs."""
