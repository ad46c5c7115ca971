"""Simulated devices."""
