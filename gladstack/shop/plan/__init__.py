"""The plan: films of a job laid on the stock of the shelf."""
