"""Foreign vector files, SVG and DXF, read into painted shapes."""
