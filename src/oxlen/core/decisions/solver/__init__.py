"""The exposure problem: what is aimed for, the limits at once, the phone's own steps, collisions."""
