"""The exposure in words."""
