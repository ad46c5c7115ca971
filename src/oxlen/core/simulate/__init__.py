"""The capture model: from scene light to a raw mosaic and a processed picture."""
