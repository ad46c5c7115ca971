"""The checklist of a plan, in working order."""
