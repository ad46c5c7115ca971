"""Outings, places and their hours as files."""
