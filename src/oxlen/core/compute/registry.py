"""All computations by id. A new one is an entry in its domain's tuple."""

from __future__ import annotations

from collections.abc import Mapping

from oxlen.core.compute.choice import CHOICE
from oxlen.core.compute.colour import COLOUR
from oxlen.core.compute.computation import Computation
from oxlen.core.compute.focus import FOCUS
from oxlen.core.compute.hold import HOLD, STEPS
from oxlen.core.compute.light import LIGHT
from oxlen.core.compute.long_time import LONG_TIME
from oxlen.core.compute.motion import MOTION
from oxlen.core.compute.sensor import SENSORS
from oxlen.core.compute.sky import SKY
from oxlen.core.compute.sky_hours import SKY_HOURS
from oxlen.core.errors import NotFound

COMPUTATIONS: Mapping[str, Computation] = {
    entry.id: entry
    for entry in (
        *LIGHT,
        *SENSORS,
        *HOLD,
        *MOTION,
        *CHOICE,
        *STEPS,
        *SKY,
        *SKY_HOURS,
        *COLOUR,
        *FOCUS,
        *LONG_TIME,
    )
}


def computation(computation_id: str) -> Computation:
    """The computation of that id; NotFound otherwise."""
    found = COMPUTATIONS.get(computation_id)
    if found is None:
        raise NotFound(
            f"There is no computation named {computation_id}; `oxlen compute --list` has them all.",
            id=computation_id,
        )
    return found
