"""Shapes and curves in millimetres: overlays, rings, fitting, outlines, offsets, partition, mending."""
