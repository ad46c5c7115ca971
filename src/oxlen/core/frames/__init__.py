"""Several frames made into one: put together, laid on each other, and what it gives."""
