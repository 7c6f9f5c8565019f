"""A simulated cutter: a process of its own that shares no code with what writes for cutters."""
