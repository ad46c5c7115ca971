"""Developing a take: what its light and noise suggest, and a picture by those steps."""
