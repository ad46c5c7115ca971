"""Pure computation: no web, no SQL, no clock, no files."""
