"""Long exposures: the time that a look of motion takes, and the ways to it."""
