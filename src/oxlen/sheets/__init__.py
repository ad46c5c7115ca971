"""Sheets at work: what a sheet holds, the readings it gives, the answer to it."""
