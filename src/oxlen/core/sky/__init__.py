"""The sky: how far stars trail while the shutter is open."""
