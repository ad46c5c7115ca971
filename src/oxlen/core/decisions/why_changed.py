"""Why a slip differs from another: what was read or asked otherwise, and what that moved."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

from oxlen.core.decisions import all_asks
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.labels import listed, stops_label

MOVED_STOPS = 0.05
SAME_LIGHT_STOPS = 0.02
NOTHING = "Nothing changed and the slip is the same."
SAME_SLIP = "The slip is the same"


@dataclass(frozen=True)
class Cause:
    """One thing that is otherwise, in words within a sentence, and how far alone it moves the slip
    (stops of shutter and ISO together)."""

    words: str
    moved_stops: float


@dataclass(frozen=True)
class WhyChanged:
    """What differs between two slips, why, and both in one sentence."""

    lines: tuple[str, ...]
    causes: tuple[Cause, ...]
    sentence: str


def why_changed(before: Brief, after: Brief) -> WhyChanged:
    """Decide both, and each difference between them alone. BadInput without a reading in either."""
    first, second = plan(before), plan(after)
    lines = tuple(_lines(first, second))
    causes = sorted(_causes(before, after, first), key=lambda cause: -cause.moved_stops)
    return WhyChanged(lines, tuple(causes), _sentence(lines, causes))


def _lines(first: Plan, second: Plan) -> Iterator[str]:
    """Lines of the slip that differ, old and new."""
    was = {setting.field: setting for setting in first.dialled.settings}
    now = {setting.field: setting for setting in second.dialled.settings}
    if first.slip is not None and second.slip is None:
        yield "there is no slip now"
        return
    for field, line in now.items():
        if field not in was:
            yield f"{line.name} is now {line.label}"
        elif was[field].label != line.label:
            yield f"{line.name} goes from {was[field].label} to {line.label}"


def _causes(before: Brief, after: Brief, first: Plan) -> Iterator[Cause]:
    for words, change in _changes(before, after):
        yield Cause(words, _moved(first, plan(change(before))))


def _changes(before: Brief, after: Brief) -> Iterator[tuple[str, Callable[[Brief], Brief]]]:
    """Each difference in words, and the way to make it alone."""
    if not _same_light(before, after):
        light: dict[str, Any] = {
            "readings_measured": after.readings_measured,
            "mean_measured_ev100": after.mean_measured_ev100,
            "tones_measured": after.tones_measured,
            "light_shift_stops": after.light_shift_stops,
        }
        yield _light_words(before, after), lambda brief: replace(brief, **light)
    for ask in all_asks():
        if before[ask] != after[ask]:
            words = f"“{ask.label}” changed"
            yield words, lambda brief, ask=ask: brief.asking(ask, after[ask])  # type: ignore[misc]
    if before.phone != after.phone:
        yield "the phone's figures changed", lambda brief: replace(brief, phone=after.phone)


def _same_light(before: Brief, after: Brief) -> bool:
    return before.readings == after.readings and before.tones == after.tones


def _light_words(before: Brief, after: Brief) -> str:
    """What the light did, by the readings both have."""
    was = {_called(reading): reading.ev100 for reading in before.readings}
    both = [reading for reading in after.readings if _called(reading) in was]
    moved = [(_called(placed), placed.ev100 - was[_called(placed)]) for placed in both]
    large = [(name, stops) for name, stops in moved if abs(stops) > SAME_LIGHT_STOPS]
    if not large:
        return "other spots were read or wanted"
    name, stops = max(large, key=lambda change: abs(change[1]))
    side = "more" if stops > 0 else "less"
    alike = len(large) == len(moved) and all(abs(moved_by - stops) < 0.1 for _, moved_by in large)
    if alike:
        return f"the light is {stops_label(stops)} {'stronger' if stops > 0 else 'weaker'}"
    return f"{name} has {stops_label(stops)} {side} light"


def _called(reading: PlacedReading) -> str:
    return reading.name or reading.role


def _moved(first: Plan, other: Plan) -> float:
    """How far two slips are apart in stops of shutter and ISO; much, where one has none."""
    if first.slip is None or other.slip is None:
        return 0.0 if first.slip is other.slip else math.inf
    shutter = abs(math.log2(other.slip.shutter_s / first.slip.shutter_s))
    iso = abs(math.log2(other.slip.iso / first.slip.iso))
    lens = 1.0 if other.slip.lens != first.slip.lens else 0.0
    return shutter + iso + lens


def _sentence(lines: tuple[str, ...], causes: list[Cause]) -> str:
    if not lines:
        if not causes:
            return NOTHING
        return f"{SAME_SLIP}, though {listed([cause.words for cause in causes])}."
    sentence = listed(list(lines[:3])) + ("" if len(lines) <= 3 else " and more")
    moving = [cause for cause in causes if cause.moved_stops > MOVED_STOPS] or causes
    if not moving:
        return f"{sentence[0].upper()}{sentence[1:]}, because the rules changed."
    words = listed([motion.words for motion in moving])
    return f"{sentence[0].upper()}{sentence[1:]}, because {words}."
