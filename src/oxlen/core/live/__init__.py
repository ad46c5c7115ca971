"""Light through a phone's live preview: its tone curve, calibrations, and what to dial."""
