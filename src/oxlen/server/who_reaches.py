"""Who could reach what is served, in plain words."""

from __future__ import annotations

from oxlen.network.serving import Served

NOBODY = "Only this computer reaches Oxlen now."
PAIRED_ONLY = (
    "Everyone on the same network can see that Oxlen is here. Only phones you have paired see "
    "your outings or change anything, and none of them can pair others."
)
READ_ALONG = (
    "Without https, others on this network could read along and take over a paired phone's "
    "access: use it only on a network of your own. The phone then cannot stay awake, use its "
    "sensors, be installed or work without the network."
)


def who_reaches(served: Served | None) -> str:
    """A sentence or two for the switch."""
    if served is None:
        return NOBODY
    return PAIRED_ONLY if served.is_secure else f"{PAIRED_ONLY} {READ_ALONG}"
