"""What a picture taken shows: whether it has what a good one of its scene must have."""
