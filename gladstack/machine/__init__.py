"""At the cutter: the line to it, and cutting a job film by film."""
