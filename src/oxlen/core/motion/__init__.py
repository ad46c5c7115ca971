"""Motion over the exposure: subjects that blur, streak or vanish, lamps that pulse, less light."""
