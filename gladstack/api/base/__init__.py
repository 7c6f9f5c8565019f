"""What all of the API stands on: the door, problems, the log, and work that is given up."""
