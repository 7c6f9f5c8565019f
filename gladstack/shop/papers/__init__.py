"""Papers: the job sheet, and how long pressing takes."""
