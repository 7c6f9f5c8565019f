"""Stages of work, remembered under keys that follow from what goes into them."""
