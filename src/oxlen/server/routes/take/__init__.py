"""Routes of takes and stacks."""
