"""Drawing with a lamp: the shutter is open as long as the drawing takes."""

from __future__ import annotations

from collections.abc import Iterable

from oxlen.core.decisions.exposure.ask import DRAWING
from oxlen.core.decisions.limit import (
    SHUTTER,
    Concern,
    EditedField,
    ExposureProblem,
    Limit,
    LimitKind,
)
from oxlen.core.labels import shutter_label


def _takes(problem: ExposureProblem) -> Iterable[Limit]:
    """No shorter than the drawing."""
    drawing = problem.brief[DRAWING]
    if drawing is None:
        return
    yield Limit(
        DRAWN,
        SHUTTER,
        drawing.time_s,
        high=None,
        name="drawing time",
        reason=f"The drawing takes {shutter_label(drawing.time_s)}",
        source="your choice",
    )


DRAWN = LimitKind(
    "drawing",
    Concern.DRAWING,
    _takes,
    edited_by=(EditedField(DRAWING, ("time_s",)), EditedField(DRAWING, ("ambient_black_stops",))),
    dropped=lambda brief, _: brief.asking(DRAWING, None),
)
