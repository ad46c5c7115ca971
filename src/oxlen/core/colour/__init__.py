"""Colour of light: where a colour temperature lies."""
