"""Tables of the kit."""
