"""Worker processes that build, read files and write: with a deadline, a memory limit and cancelling, outside the server."""
