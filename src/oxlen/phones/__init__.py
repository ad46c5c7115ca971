"""A phone known from its own pictures, and more exactly by measurements."""
