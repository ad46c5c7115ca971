"""How steady the phone is held, in stops over the bare rule of hand."""

from __future__ import annotations

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.ask import HOLD, SUPPORT
from oxlen.core.hold.hand import steadied_stops


def steady_stops(brief: Brief) -> float:
    """Stops the stabiliser and a rest add to the bare rule of hand."""
    return steadied_stops(stabiliser_stops(brief), brief[SUPPORT])


def stabiliser_stops(brief: Brief) -> float:
    """Stops of the stabiliser: one's own figure, else the lens's."""
    own = brief[HOLD].stabiliser_stops
    return brief.lens.stabiliser_stops if own is None else own
