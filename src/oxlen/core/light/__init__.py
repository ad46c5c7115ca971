"""Light and exposure: EV100, tones, spots, placement, readings."""
