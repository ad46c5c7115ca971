"""Serving on the network on purpose: addresses, certificates, codes to pair a phone with."""
