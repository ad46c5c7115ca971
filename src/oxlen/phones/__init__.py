"""A phone made out of its own pictures, and sharpened by measurements."""
