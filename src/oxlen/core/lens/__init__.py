"""Choosing a lens: what it is equal to, what it does to a background, how it stretches edges."""
