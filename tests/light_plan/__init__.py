"""Days and nights by the clock of a place."""
