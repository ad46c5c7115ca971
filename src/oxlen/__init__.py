"""Oxlen: the measuring, arithmetic and record keeping of a phone's manual camera mode."""

__version__ = "0.19.0"
