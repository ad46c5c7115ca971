"""Picture files: what they are, what they say of their exposure, and their pixels as light."""
