"""One slip for a set: exposure, white and focus of one sheet locked over others."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.exposure.ask import FORMAT, GLASS, SUPPORT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.decisions.saving.ask import SAVING
from oxlen.formats.plan.plan import SlipFile
from oxlen.formats.sheet.file import SheetBody, StepsByHand

Locked = Literal["exposure", "white", "focus", "save"]
LOCKED: tuple[Locked, ...] = ("exposure", "white", "focus", "save")
FIELDS: dict[Locked, tuple[str, ...]] = {
    "exposure": (LENS.name, MODE.name, SUPPORT.name, GLASS.name),
    "white": (LIGHT_COLOUR.name,),
    "focus": (FOCUS.name,),
    "save": (FORMAT.name, SAVING.name),
}


def with_same_slip(
    body: SheetBody, first: SheetBody, *, slip: SlipFile, locked: Sequence[Locked]
) -> SheetBody:
    """A sheet with the slip of the first: what is not in `locked` may differ and stays its own.

    Exposure is locked by the slip's own steps, so that light read differently changes nothing.
    """
    change = {name: getattr(first, name) for part in locked for name in FIELDS[part]}
    if "exposure" in locked:
        change["phone"] = first.phone
        steps = first.steps_by_hand
        change["steps_by_hand"] = steps or StepsByHand(iso=slip.iso, shutter_s=slip.shutter_s)
    return body.model_copy(update=change)
