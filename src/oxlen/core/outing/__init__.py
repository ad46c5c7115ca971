"""An outing: when its sheets work, and in which order."""
