"""Tests of the live preview: its curve, its age, what was dialled."""
