"""Dry runs: the frame that a pair of steps is predicted to give."""
