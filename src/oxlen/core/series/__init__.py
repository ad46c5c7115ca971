"""A series of things for a shop: what each take shows, and how it differs from the reference."""
