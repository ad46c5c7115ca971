"""Colour of light: where a colour temperature is."""
