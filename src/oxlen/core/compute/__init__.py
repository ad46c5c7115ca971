"""The registry of computations: every number a user can open, with inputs, formula and source."""
