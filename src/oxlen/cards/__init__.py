"""The field card: what is needed at the spot, to be read without Oxlen; calendar and QR of it."""
