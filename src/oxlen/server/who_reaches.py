"""Who could reach what is served, in plain words."""

from __future__ import annotations

from oxlen.network.serving import Served

NOBODY = "Only this computer can open Oxlen now."
PAIRED_ONLY = (
    "Everyone on the same network can see that Oxlen is here. Only paired phones can see or "
    "change your outings. They cannot pair other phones."
)
READ_ALONG = (
    "Without https, others on this network could read the data and take over a paired phone's "
    "access. Use it only on your own network. The phone then cannot stay awake, use its sensors, "
    "be installed or work offline."
)


def who_reaches(served: Served | None) -> str:
    """A sentence or two for the switch."""
    if served is None:
        return NOBODY
    return PAIRED_ONLY if served.is_secure else f"{PAIRED_ONLY} {READ_ALONG}"
