"""Briefs and plans as files."""
