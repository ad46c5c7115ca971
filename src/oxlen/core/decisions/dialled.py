"""What a slip's lines dial in besides the exposure: white balance and focus, as numbers."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from oxlen.core.decisions.colour.decision import WHITE
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.depths import scale_in_use
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.setting import Setting

FARTHEST_M = 50_000.0


@dataclass(frozen=True)
class Dials:
    """White balance in kelvin with its tint, None for auto; the slider, None where one taps."""

    white_k: float | None = None
    tint: float = 0.0
    slider: float | None = None

    def tint_duv(self, brief: Brief) -> float:
        """How far the tint shifts the white of the brief's phone."""
        dial = brief.phone.white
        return 0.0 if dial is None else self.tint * dial.tint_duv

    def focused_m(self, brief: Brief) -> float | None:
        """Distance (m) the slider focuses at by its scale; None where focus is tapped."""
        scale = scale_in_use(brief)
        if self.slider is None or scale is None:
            return None
        found = scale.distance_at_m(self.slider)
        return FARTHEST_M if math.isinf(found) else found


def dials_of(settings: Sequence[Setting]) -> Dials:
    """White balance and focus of a slip's lines, where they are dialled by number."""
    lines = {setting.field: setting for setting in settings}
    white, focus = lines.get(WHITE), lines.get(FOCUS.name)
    by_number = white is not None and white.unit == "K"
    return Dials(
        float(white.value) if white is not None and by_number else None,
        (white.figures.get("tint") or 0.0) if white is not None and by_number else 0.0,
        slider=float(focus.value) if focus is not None and focus.unit == "slider" else None,
    )
