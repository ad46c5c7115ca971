"""Devices outside the app, and the simulated ones that replace them."""
