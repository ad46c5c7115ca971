"""What is not offered where: ways out that cannot be had, or that would hurt someone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import LAMPS, MOTION
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.scene.facts import SceneFacts, scene_facts, subject_m
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS

LIT_TO_M = 10.0
"""Farther than this no lamp or board that people carry lights a subject."""
LIT_TO_M_S = 3.0
"""What runs by faster cannot be followed with a lamp, and a rider or driver would be dazzled."""
LIGHT_ADDED = {"light", "lamp", "fill", "flash"}
FRAMES_ALIKE = {"frames", "stack", "bracket", "night-mode", "wide-range", "exposures-blended"}
"""Ways that need frames in which nothing has moved."""
AT_THE_SUN = LIGHT_ADDED | FRAMES_ALIKE
AT_THE_SUN |= {"nd", "hour", "lift", "raw", "own_filter", "computed_nd", "median", "auto"}
"""None of it protects an eye or a sensor, and none of it brings detail back beside the Sun."""

Applies = Callable[[Brief, SceneFacts], bool]


@dataclass(frozen=True)
class Unfit:
    """Offers (by id) that are not made where something applies."""

    offers: frozenset[str]
    applies: Applies


def is_lit_by_others(brief: Brief) -> bool:
    """Whether the lamps in a brief belong to others."""
    stated = brief[SURROUNDINGS].lit_by
    return stated == "stage" or (stated is None and "venue" in scene_facts(brief).traits)


def _is_out_of_reach(brief: Brief, _: SceneFacts) -> bool:
    distance_m = subject_m(brief)
    return distance_m is not None and distance_m > LIT_TO_M


def _is_unlit(brief: Brief, at: SceneFacts) -> bool:
    """By its name, unless its lamps are one's own."""
    return "unlit" in at.traits and brief[SURROUNDINGS].lit_by != "lamps"


def _runs_by(brief: Brief, _: SceneFacts) -> bool:
    return any(float(motion.mover.speed_m_s) >= LIT_TO_M_S for motion in brief[MOTION])


UNFIT: tuple[Unfit, ...] = (
    Unfit(frozenset(AT_THE_SUN), lambda _, at: at.is_glaring),
    Unfit(frozenset(LIGHT_ADDED | {"steady_lamp"}), _is_unlit),
    Unfit(
        frozenset(LIGHT_ADDED | {"steady_lamp", "tripod"}),
        lambda _, at: "railway" in at.hazards,
    ),
    Unfit(frozenset(LIGHT_ADDED | {"hour"}), lambda _, at: "storm" in at.hazards),
    Unfit(
        frozenset({"lamp", "light", "steady_lamp", "hour", "flash"}),
        lambda brief, _: is_lit_by_others(brief),
    ),
    Unfit(frozenset({"hour"}), lambda _, at: "own_hour" in at.traits),
    Unfit(frozenset({"hour"}), lambda brief, _: brief[SURROUNDINGS].lit_by in ("lamps", "night")),
    Unfit(frozenset({"fill", "light", "flash"}), _is_out_of_reach),
    Unfit(frozenset({"fill", "light", "flash"}), _runs_by),
    Unfit(frozenset({"lamp"}), lambda brief, _: brief[SURROUNDINGS].lit_by in ("day", "night")),
    Unfit(frozenset({"still"}), lambda _, at: bool(at.traits & {"never_poses", "venue"})),
    Unfit(frozenset(FRAMES_ALIKE), lambda _, at: "moves" in at.traits),
    Unfit(frozenset({"pan", "pan-closer"}), lambda _, at: "sky" in at.traits),
    Unfit(
        frozenset({"tripod", "brace", "still", *LIGHT_ADDED, *FRAMES_ALIKE}),
        lambda brief, _: brief[SURROUNDINGS].stand != "ground",
    ),
)


def is_fit(brief: Brief, offer_id: str) -> bool:
    """Whether a way out, alone or of several changes, is one to offer for a brief."""
    parts = set(offer_id.split("+"))
    at = scene_facts(brief)
    if at.is_glaring and any(_is_longer(brief, part) for part in parts):
        return False
    return not any(parts & unfit.offers and unfit.applies(brief, at) for unfit in UNFIT)


def _is_longer(brief: Brief, part: str) -> bool:
    """Whether it is another lens that is longer than the one in use."""
    for lens in brief.phone.lenses:
        if part == f"lens-{lens.id}":
            return lens.focal35_mm > brief.lens.focal35_mm
    return False


def has_lamps_of_its_own(brief: Brief) -> bool:
    """Whether the lamps in a brief are the photographer's to dim, move or change."""
    stated = brief[SURROUNDINGS].lit_by
    if stated is not None:
        return stated == "lamps"
    return brief[LAMPS] is not None and not is_lit_by_others(brief)
