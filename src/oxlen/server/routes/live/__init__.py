"""Routes of the live camera."""
