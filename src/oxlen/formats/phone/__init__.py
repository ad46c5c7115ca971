"""Phones as files."""
