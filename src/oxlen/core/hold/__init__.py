"""Holding still: hand limits, bursts, and what the photographer's own takes say."""
