"""What everything else stands on: errors, tolerances, units, colours, text."""
