"""Tasks: what workers do, and what it is shown as."""
