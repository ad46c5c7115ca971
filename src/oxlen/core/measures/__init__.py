"""What measurements of a phone come to: from samples of pictures to figures with their ±."""
