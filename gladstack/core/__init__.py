"""The job itself: pure functions on plain data, with no web, no SQL and no files.

Lengths are millimetres, float64, y down, origin at the design's top-left, unless a name ends in `_px`.
"""
