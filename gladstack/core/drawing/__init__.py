"""Foreign vector files, SVG, PDF, DXF and HPGL, read into painted shapes."""
