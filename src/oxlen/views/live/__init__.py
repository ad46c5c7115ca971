"""The live preview as the screen shows it."""
