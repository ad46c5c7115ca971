"""The exposure problem: what is aimed for, every limit at once, the phone's steps, collisions."""
