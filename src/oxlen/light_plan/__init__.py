"""Light and dark by the clock of a place: days, nights, and which of them suit."""
