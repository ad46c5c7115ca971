"""What belongs to takes, as files."""
