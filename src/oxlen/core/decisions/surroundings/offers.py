"""Ways out where the Sun or an arc shines into the lens."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import LENS_FILTERS
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.tones import spoken_spot
from oxlen.core.kit.lens_filter import LensFilter

SOLAR_FILTER = LensFilter("Certified solar filter", 100_000.0)
"""Density 5, as filters for looking at the Sun have."""


def glare_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """A certified filter where the Sun is the subject; else what glares stays out of the frame."""
    brief, at = search.brief, scene_facts(search.brief)
    if conflict is None or not at.glaring:
        return
    if "sun" in at.hazards and all(reading.role == SUBJECT for reading in at.glaring):
        filtered = brief.asking(LENS_FILTERS, (*brief[LENS_FILTERS], SOLAR_FILTER))
        text = "Put a certified solar filter over the lens"
        cost = "and another one over your eyes"
        yield Offer("solar_filter", text, cost, brief=filtered, tier=Tier.STEADIER)
    if len(at.glaring) < len(brief.readings):
        name = spoken_spot(at.glaring[0])
        yield Offer(
            "elsewhere",
            f"Keep {name} out of the frame",
            "behind a mast, a roof or a screen, or turn away; read the light again",
            brief=_without_glare(brief),
            tier=Tier.STEADIER,
            outside=True,
        )


def _without_glare(brief: Brief) -> Brief:
    glaring = scene_facts(brief).glaring
    pairs = zip(brief.readings, brief.readings_measured, strict=True)
    kept = tuple(measured for reading, measured in pairs if reading not in glaring)
    return replace(brief, readings_measured=kept)
