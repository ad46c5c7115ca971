"""Files of a set put together into one picture: read, laid on each other, gathered, written."""
