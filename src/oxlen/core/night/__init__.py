"""Nights: the ways to stars and land, on top of what is decided for any picture."""
