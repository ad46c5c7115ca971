"""Routes of outings and places."""
