"""Nights: the ways to stars and foreground, on top of what is decided for any picture."""
