"""What the phone's auto mode would take a known scene with: its own meter, ladders and focus."""

from __future__ import annotations

from oxlen.core.decisions.exposure.ask import SUPPORT, glass_stops
from oxlen.core.decisions.exposure.auto.choice import auto_choice
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.simulate.automatic import auto_focus_m, metered_ev100
from oxlen.core.simulate.capture import seen_through
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.scene import Scene


def auto_capture(brief: Brief, scene: Scene) -> CaptureSettings:
    """The frame's mean at mid, metered through the filter on the lens; focus where contrast is."""
    framed = seen_through(scene, brief.lens, brief.mode)
    metered = metered_ev100(framed, brief.phone.meter_offset_stops)
    choice = auto_choice(brief, 0.0, metered)
    return CaptureSettings(
        choice.iso,
        choice.shutter_s,
        auto_focus_m(framed),
        support=brief[SUPPORT],
        glass_stops=glass_stops(brief),
    )
