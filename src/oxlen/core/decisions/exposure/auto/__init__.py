"""What the phone's automatic would do, and the way to a slip through it."""
