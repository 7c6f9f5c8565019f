"""Measurements of Glad Stack against known truths and a general-purpose tracer."""
