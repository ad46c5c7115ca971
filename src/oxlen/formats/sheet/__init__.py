"""Sheets and what goes on them, as files."""
