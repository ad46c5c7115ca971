"""Routes of the kit."""
