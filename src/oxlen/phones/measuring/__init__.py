"""Guided measurements of one's own phone: what to photograph, what is read, its result."""
