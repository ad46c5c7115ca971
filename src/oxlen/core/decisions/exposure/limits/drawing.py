"""Drawing with a lamp: the shutter is open as long as the drawing takes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import DRAWING
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict, Side
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.labels import stops_label, time_label, two_digits

MOST_PARTS = 8
"""A drawing in more parts than this is not one drawing."""
SHORTEST_PART_S = 0.5
"""Nobody draws in less."""


def _takes(problem: ExposureProblem) -> Iterable[Limit]:
    """No shorter than the drawing."""
    drawing = problem.brief[DRAWING]
    if drawing is None:
        return
    yield Limit(
        DRAWN,
        SHUTTER,
        drawing.takes_s,
        high=None,
        name="drawing time",
        low_words=f"the drawing needs {time_label(drawing.takes_s)}",
        reason=_takes_words(drawing),
        source="your choice",
    )


def _drawing_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The drawing in parts that are stacked, or a darker room."""
    brief, drawing = search.brief, search.brief[DRAWING]
    if conflict is None or drawing is None:
        return
    stops = conflict.short_by_stops + search.brief.mode.manual.half_step_stops
    parts = _parts(drawing, conflict.short_by_stops)
    if parts is not None:
        shorter_drawing = replace(drawing, parts=parts)
        each = shorter_drawing.takes_s
        shorter = brief.asking(DRAWING, shorter_drawing)
        text = f"Draw it in {parts} parts of {time_label(each)}, one frame each"
        cost = "stacked afterwards with lighten; the phone must not move"
        yield Offer("parts", text, cost, brief=shorter, tier=Tier.SEVERAL_FRAMES)
    if conflict.side is Side.BRIGHT:
        text = f"Make the room {stops_label(stops)} darker, or put black cloth behind"
        cost = f"{two_digits(2.0**-stops)} of the light there is now"
        yield Offer("darker", text, cost, brief=brief.lit(-stops), tier=Tier.OTHER_LIGHT)


def _parts(drawing: Drawing, short_by_stops: float) -> int | None:
    """In how many frames it is drawn so that each is short enough; None where none would do."""
    wanted_s = drawing.takes_s * 2.0**-short_by_stops * (1 + 1e-9)
    for parts in range(drawing.frames + 1, MOST_PARTS + 1):
        each = replace(drawing, parts=parts).takes_s
        if each <= wanted_s:
            return parts if each >= SHORTEST_PART_S else None
    return None


def _takes_words(drawing: Drawing) -> str:
    time = time_label(drawing.takes_s)
    if not drawing.what.strip():
        return f"The drawing needs {time}"
    part = "" if drawing.frames == 1 else f" in each of {drawing.frames} frames"
    return f"Drawing “{drawing.what.strip()}” needs {time}{part}"


DRAWN = LimitKind(
    "drawing",
    Concern.DRAWING,
    _takes,
    edited_by=(EditedField(DRAWING, ("time_s",)), EditedField(DRAWING, ("ambient_black_stops",))),
    dropped=lambda brief, _: brief.asking(DRAWING, None),
    ways_out=_drawing_offers,
)
