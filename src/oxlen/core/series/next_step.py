"""What becomes of a take that was compared: keep it, match it in development, or reshoot it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

from oxlen.core.series.comparing import (
    BACKGROUND_STOPS,
    CLIPPED_SHARE,
    COLOUR_DELTA_E,
    EXPOSURE_STOPS,
    SCALE_SHARE,
    SHARPNESS,
    SHIFT_SHARE,
    TILT_DEG,
    Reason,
    SeriesDifference,
)

NextStep = Literal["keep", "match", "reshoot", "look"]
"""To look at it oneself is left where nothing could be compared."""
MATCHED: frozenset[Reason] = frozenset(("exposure", "colour", "scale", "shift", "tilt"))
"""What development can mend without inventing anything."""
DARKEST_STOPS, SMALLEST = -1.5, 0.87
"""Own choice: a take darker than this turns noisy when brightened, a smaller thing soft when
enlarged."""


def next_step(found: SeriesDifference | None) -> NextStep:
    """What to do with a take; None is one that could not be compared at all."""
    if found is None or found.verdict == "not judged":
        return "look"
    if not found.reasons:
        return "keep"
    if not MATCHED.issuperset(found.reasons) or _too_far(found):
        return "reshoot"
    return "match"


def urgency(step: NextStep | None, over: float, *, is_reference: bool) -> tuple[int, float]:
    """What a list of takes is sorted by, the largest first: what to shoot again, then to match.

    `over` is the `badness`; the reference is last.
    """
    if is_reference:
        return (-1, 0.0)
    return ({"reshoot": 3, "look": 2, "match": 1}.get(step or "", 0), over)


def badness(found: SeriesDifference) -> float:
    """How far over the worst limit it is, as a ratio (at least 0): 1 is what a buyer would see."""
    return max(_shares(found), default=0.0)


def _too_far(found: SeriesDifference) -> bool:
    is_dark = found.exposure_stops is not None and found.exposure_stops < DARKEST_STOPS
    return is_dark or (found.same_shape and (found.scale or 1.0) < SMALLEST)


def _shares(found: SeriesDifference) -> Iterator[float]:
    for value, limit in (
        (found.exposure_stops, EXPOSURE_STOPS),
        (found.colour_delta_e, COLOUR_DELTA_E),
        (found.shift, SHIFT_SHARE),
        (found.tilt_deg, TILT_DEG),
        (found.background_stops, BACKGROUND_STOPS),
        (float(found.specks), 1.0),
        (found.clipped_share if "clipped" in found.reasons else None, CLIPPED_SHARE),
    ):
        if value is not None:
            yield abs(value) / limit
    if found.scale is not None and found.same_shape:
        yield abs(math.log(found.scale)) / math.log1p(SCALE_SHARE)
    if found.sharpness is not None and found.sharpness > 0:
        yield math.log(found.sharpness) / math.log(SHARPNESS)
