"""How many seeds a test tries: some in the usual run, all of them with `./oxlen test --long`."""

import os

LONG = "OXLEN_TEST_LONG"


def seeds(some, every):
    """The seeds to try."""
    return range(every if os.environ.get(LONG) else some)
