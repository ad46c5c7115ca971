"""Devices outside the app, and the simulated ones that stand in for them."""
