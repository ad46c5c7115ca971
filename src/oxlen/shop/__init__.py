"""Series for a shop from picture files: measured, compared with a reference."""
