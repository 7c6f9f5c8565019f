"""The shelf: materials, what there is of them, cutters, and what a job may take."""
