"""Focus: how large a point out of focus is drawn."""
