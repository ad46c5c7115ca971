"""Several frames made into one: aligned, stacked, and what it gives."""
