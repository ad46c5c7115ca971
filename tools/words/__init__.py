"""Every string that a person reads, listed so that one person can read them all."""
