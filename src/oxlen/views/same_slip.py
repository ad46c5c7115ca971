"""One slip for a series: parts of one sheet locked over others."""

from __future__ import annotations

from collections.abc import Sequence

from oxlen.core import decisions
from oxlen.core.decisions.exposure.ask import EXPOSURE_PART
from oxlen.formats.plan.plan import SlipFile
from oxlen.formats.sheet.file import SheetBody, StepsByHand


def with_same_slip(
    body: SheetBody, first: SheetBody, *, slip: SlipFile, locked: Sequence[str]
) -> SheetBody:
    """A sheet with the slip of the first; what is in no part of `locked` stays its own.

    Exposure is locked by the slip's own steps, so that light read differently changes nothing.
    """
    change = {
        ask.name: getattr(first, ask.name)
        for decision in decisions.DECISIONS
        if decision.series_part is not None and decision.series_part.id in locked
        for ask in decision.locked
    }
    if EXPOSURE_PART.id in locked:
        change["phone"] = first.phone
        steps = first.steps_by_hand
        change["steps_by_hand"] = steps or StepsByHand(iso=slip.iso, shutter_s=slip.shutter_s)
    return body.model_copy(update=change)
