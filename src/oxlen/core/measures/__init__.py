"""Results of a phone's measurements: from samples of pictures to figures with their ±."""
