"""The decisions of the job. To add one: a folder with its `Decision`, and a line in `DECISIONS`.

Everything else follows from this list: brief, sheet, preset and plan schemas, the limits of the
search, the lines of the slip, ways out and the patches they make, what can be edited on screen.
"""

from __future__ import annotations

from collections.abc import Mapping

from oxlen.core.ask import Ask
from oxlen.core.decisions.colour.decision import DECISION as COLOUR
from oxlen.core.decisions.exposure.decision import DECISION as EXPOSURE
from oxlen.core.decisions.focus.decision import DECISION as FOCUS
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.limit import LimitKind
from oxlen.core.decisions.lens.decision import DECISION as LENS
from oxlen.core.decisions.saving.decision import DECISION as SAVING
from oxlen.core.decisions.sequence.decision import DECISION as SEQUENCE
from oxlen.core.decisions.surroundings.decision import DECISION as SURROUNDINGS

DECISIONS: tuple[Decision, ...] = (LENS, EXPOSURE, SEQUENCE, COLOUR, FOCUS, SAVING, SURROUNDINGS)
"""In working order: what is decided first comes first on the slip."""


def limit_kinds() -> tuple[LimitKind, ...]:
    """Every kind of limit, in the decisions' order."""
    return tuple(kind for decision in DECISIONS for kind in decision.limit_kinds)


def all_asks() -> tuple[Ask, ...]:  # type: ignore[type-arg]
    """Everything that may be asked for, in the decisions' order."""
    return tuple(ask for decision in DECISIONS for ask in decision.asks)


def dials() -> Mapping[str, Dial]:
    """What is known of each line of the slip, by its field."""
    return {dial.field: dial for decision in DECISIONS for dial in decision.dials}


def instruments() -> Mapping[str, str]:
    """The drawing that shows a line of the slip at work, by the line's field."""
    return {dial.field: decision.instrument for decision in DECISIONS for dial in decision.dials}


def series_parts() -> tuple[SeriesPart, ...]:
    """What the sheets of a series may share, each part once."""
    found = (decision.series_part for decision in DECISIONS if decision.series_part is not None)
    return tuple({part.id: part for part in found}.values())
