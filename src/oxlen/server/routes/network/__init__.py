"""Routes of serving on a network."""
