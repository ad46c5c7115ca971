"""The surroundings of a brief as rules use them: what was set, and what names and light say."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import CLOSEUP, LAND, LENS_FILTERS, LOOKS, MOTION, SKY
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.lens.ask import FRAMING
from oxlen.core.decisions.scene.named import (
    Trait,
    names_an_arc,
    names_the_sun,
    things_in,
    traits_of,
)
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS, Hazard

GLARING_EV100 = 20.0
"""Nothing that is lit gets so bright: it is the Sun, its glint, or an arc. White in full sun has
16.5."""
WATER_LOOKS = ("texture", "soft", "glass")


@dataclass(frozen=True)
class SceneFacts:
    """Facts for the rules of care.

    `glaring` are the readings of the Sun or an arc that no certified filter on the lens covers.
    """

    hazards: frozenset[Hazard]
    traits: frozenset[Trait]
    glaring: tuple[PlacedReading, ...]
    is_filtered: bool

    @property
    def is_glaring(self) -> bool:
        """Whether the Sun or an arc shines into the bare lens."""
        return bool(self.glaring) or ("sun" in self.hazards and not self.is_filtered)


def scene_facts(brief: Brief) -> SceneFacts:
    """The surroundings of a brief, derived once."""
    return brief.memo.of(_scene_facts)


def _scene_facts(brief: Brief) -> SceneFacts:
    names = names_in(brief)
    hazards: set[Hazard] = set(brief[SURROUNDINGS].has)
    # A title names more than what is lit and moves: it may warn, but rules nothing out.
    notes = (*names, brief.about)
    hazards |= {thing.hazard for name in notes for thing in things_in(name) if thing.hazard}
    if (
        any(look.look in WATER_LOOKS for look in brief[LOOKS])
        or brief[SURROUNDINGS].stand == "boat"
    ):
        hazards.add("water")
    glaring = tuple(reading for reading in brief.readings if is_glaring(reading))
    if any(names_the_sun(name) for name in notes):
        hazards.add("sun")
    if any(names_an_arc(name) for name in names):
        hazards.add("welding")
    if glaring and not hazards & {"sun", "welding"}:
        hazards.add("sun")
    is_filtered = any("solar" in lens_filter.name.casefold() for lens_filter in brief[LENS_FILTERS])
    is_filtered |= "sun" not in hazards and any(
        "weld" in x.name.casefold() for x in brief[LENS_FILTERS]
    )
    traits = set(traits_of(names))
    if brief[SKY] is not None or brief[LAND] is not None:
        traits.add("sky")
    return SceneFacts(
        frozenset(hazards),
        frozenset(traits),
        () if is_filtered else glaring,
        is_filtered=is_filtered,
    )


def names_in(brief: Brief) -> tuple[str, ...]:
    """Every name a brief gives: of spots, of movers, and of what is focused on."""
    moving = (*brief[MOTION], *brief[LOOKS])
    found = [reading.name for reading in brief.readings]
    found += [motion.name or (motion.subject or "").replace("-", " ") for motion in moving]
    return tuple(name for name in (*found, brief[FOCUS].on) if name)


def is_glaring(reading: PlacedReading) -> bool:
    """Whether a reading is of the Sun or an arc."""
    named = names_the_sun(reading.name) or names_an_arc(reading.name)
    return named or reading.ev100 >= GLARING_EV100


def subject_m(brief: Brief) -> float | None:
    """How far the subject is (m), where the brief says."""
    close, framing = brief[CLOSEUP], brief[FRAMING]
    if close is not None:
        return close.distance_m
    if framing is not None:
        return framing.distance_m
    if brief[FOCUS].distance_m is not None:
        return brief[FOCUS].distance_m
    return min((float(motion.mover.distance_m) for motion in brief[MOTION]), default=None)
