"""Files of a set stacked into one picture: read, aligned, combined, written."""
