"""Benchmarks: each figure is a ratio or a share measured in one run, against what it leans on."""
