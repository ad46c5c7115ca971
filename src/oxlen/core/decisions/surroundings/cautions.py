"""Cautions: short, once, and where they apply, whether or not settings were found."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.exposure.ask import DRAWING, MOTION, under_stars
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.scene.facts import SceneFacts, scene_facts
from oxlen.core.decisions.surroundings.ask import Hazard

LOCAL_RULES = "Local rules and licensed people come first."
DARK_EV100, BRIGHT_EV100 = 1.0, 16.0
GRAVE = ("sun", "welding", "storm", "railway", "strobe")


@dataclass(frozen=True)
class Caution:
    """One caution: what it is about, and what to do."""

    id: str
    words: str

    @property
    def is_grave(self) -> bool:
        """Whether it comes before the slip itself: what is done first may already hurt."""
        return self.id in GRAVE


BY_HAZARD: Mapping[Hazard, str] = {
    "sun": (
        "Never look at or aim at the Sun without a certified solar filter over lens and eyes. "
        "Otherwise keep it out of the frame. An ND or polariser does not protect."
    ),
    "welding": (
        "Never look at or aim at the arc without a welder\u2019s filter; stay behind the screen."
    ),
    "storm": "Thunderstorm: shoot from indoors or a closed car, away from trees, masts and water.",
    "railway": "Railway: stay off the tracks and behind the line; no lamps, flash or tripod near.",
    "wildlife": "Wildlife: keep your distance, no flash, leave when it notices you.",
    "cliff": "Cliff: stay back from the edge, and look up before you step.",
    "drone": "Drones: never under their flight; flying one needs permission.",
    "crowd": "Crowd: no tripod in the way, mind your bag, respect who does not want to be in it.",
    "strobe": "Stage and strobe lights can trigger seizures and dazzle; no flash at performers.",
    "fireworks": "Fireworks: keep the marked distance, upwind, and stay clear of duds.",
    "water": "Water: stay clear of wet edges, know the tide, wear a life jacket afloat.",
    "ice": "Ice and snow: test each step, stay off frozen water, keep phone and hands warm.",
    "traffic": "Road: stand clear of it, be seen, never step back without looking.",
}

Applies = Callable[[Brief, SceneFacts], bool]


def _is_bright(brief: Brief, at: SceneFacts) -> bool:
    bright = any(reading.ev100 >= BRIGHT_EV100 for reading in brief.readings)
    return bright and not at.hazards & {"sun", "welding"}


def _is_night(brief: Brief, _: SceneFacts) -> bool:
    subjects = [reading.ev100 for reading in brief.readings if reading.role == SUBJECT]
    return under_stars(brief) or (bool(subjects) and max(subjects) < DARK_EV100)


OTHERS: tuple[tuple[str, Applies, str], ...] = (
    ("glare", _is_bright, "Never point eyes or a long lens at the sun."),
    (
        "movers",
        lambda brief, at: bool(brief[MOTION]) and not at.traits & {"sky", "venue"},
        "Stand clear of what moves; never ride or steer and shoot.",
    ),
    ("night", _is_night, "Tell someone where you are; take a light and warm clothes."),
    (
        "stars",
        lambda brief, _: under_stars(brief),
        "Know the tide and the way back before dark; spare others\u2019 eyes your lamps.",
    ),
    (
        "lamps",
        lambda brief, _: bool(brief[LIGHT_COLOUR].lamps) or brief[DRAWING] is not None,
        "Keep hot lamps and mains leads from water; flashing light can trigger seizures.",
    ),
)


def cautions(brief: Brief) -> tuple[Caution, ...]:
    """Every caution that applies to a brief, the gravest first; none where nothing does."""
    at = scene_facts(brief)
    found = [Caution(hazard, words) for hazard, words in BY_HAZARD.items() if hazard in at.hazards]
    found += [Caution(name, words) for name, applies, words in OTHERS if applies(brief, at)]
    return tuple(found)


def caution_words(brief: Brief) -> tuple[str, ...]:
    """The cautions of a brief as sentences, with whose word comes first at their end."""
    found = tuple(caution.words for caution in cautions(brief))
    return (*found, LOCAL_RULES) if found else ()
