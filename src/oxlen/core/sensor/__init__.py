"""The sensor: noise, usable range, photon transfer, raw levels."""
