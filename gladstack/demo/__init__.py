"""Designs to look at: the open evening of a small hill-top observatory, all of it made up."""
