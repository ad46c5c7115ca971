"""Which measurement of a phone would sharpen its slips most, tried on typical pictures."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from oxlen.core.decisions.plan import plan
from oxlen.core.errors import OxlenError
from oxlen.formats.phone.figures import figure_places
from oxlen.formats.phone.origin import OriginProfile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.plan.brief import BriefFile
from oxlen.phones.measuring.catalogue import MEASUREMENTS
from oxlen.phones.measuring.measurement import Measurement

LEAST_MOVE_STOPS = 0.05
TYPICAL: tuple[dict[str, Any], ...] = (
    {"readings": [{"role": "subject", "ev100": 6.0}], "support": "handheld"},
    {"readings": [{"role": "subject", "ev100": 3.0}], "support": "handheld"},
    {"readings": [{"role": "subject", "ev100": 4.0}], "support": "braced"},
    {
        "readings": [
            {"role": "subject", "ev100": 9.0},
            {"role": "keep-bright", "ev100": 13.0},
        ],
        "support": "handheld",
    },
    {"readings": [{"role": "subject", "ev100": -2.0}], "support": "tripod"},
    {
        "readings": [{"role": "subject", "ev100": 10.0}],
        "support": "tripod",
        "motion": [{"subject": "walker", "distance_m": 6}],
    },
)
"""Pictures that figures are tried on: evenings handheld, a window, a night, a walker."""


@dataclass(frozen=True)
class WorthMeasuring:
    """A measurement and by how much its figures may move slips, in stops."""

    kind: str
    name: str
    minutes: int
    moves_stops: float
    words: str


def worth_measuring(profile: PhoneProfile) -> list[WorthMeasuring]:
    """Measurements whose figures are unsure enough to move slips, the most telling first."""
    return sorted(_worth(profile), key=lambda worth: -worth.moves_stops)


def _worth(profile: PhoneProfile) -> Iterator[WorthMeasuring]:
    before = [_slip(profile, brief) for brief in TYPICAL]
    for measurement in MEASUREMENTS:
        moves = _moves(profile, measurement, before)
        if moves >= LEAST_MOVE_STOPS:
            words = f"can change slips by {moves:.1f} stop{'s' if moves >= 1.95 else ''}"
            yield WorthMeasuring(
                measurement.id,
                measurement.name,
                measurement.minutes,
                moves_stops=moves,
                words=words,
            )


def _moves(profile: PhoneProfile, known: Measurement, before: list[tuple[float, float]]) -> float:
    """The most that a measurement's figures, off by their ±, move a typical slip, in stops."""
    most = 0.0
    for place, origin in _unsure(profile, known):
        if place == "meter_offset_stops":
            most = max(most, origin.plus_minus or 0.0)
            continue
        for sign in (1.0, -1.0):
            other = _shifted(profile, place, sign * (origin.plus_minus or 0.0))
            after = [] if other is None else [_slip(other, brief) for brief in TYPICAL]
            apart = [_apart(a, b) for a, b in zip(before, after, strict=False)]
            most = max([most, *apart])
    return most


def _unsure(profile: PhoneProfile, known: Measurement) -> Iterator[tuple[str, OriginProfile]]:
    """Figures of the first lens that a measurement finds and that were not measured yet."""
    lens = profile.lenses[0]
    starts = ("", f"lenses.{lens.id}.", f"lenses.{lens.id}.{lens.modes[0].id}.")
    for name in known.sharpens:
        for start in starts:
            origin = profile.origins.get(start + name)
            if origin is not None and origin.plus_minus and origin.origin != "measured":
                yield start + name, origin


def _shifted(profile: PhoneProfile, path: str, by: float) -> PhoneProfile | None:
    """The profile with one figure off by so much; None where that cannot be."""
    data = profile.model_dump(mode="json")
    for place in figure_places(data):
        if place.path == path:
            value = place.holder[place.key]
            if isinstance(value, list):
                share = 1 + by / value[0][1]
                place.holder[place.key] = [[iso, noise * max(share, 0.1)] for iso, noise in value]
            else:
                place.holder[place.key] = value + by
    try:
        return PhoneProfile.model_validate(data)
    except ValueError:
        return None


def _slip(profile: PhoneProfile, brief: dict[str, Any]) -> tuple[float, float]:
    """ISO and shutter (s) of a typical picture; none where no pair keeps every limit."""
    file = BriefFile.model_validate({**brief, "phone": profile.id})
    try:
        slip = plan(file.to_brief(lambda _: profile)).solution.slip
    except OxlenError:
        slip = None
    return (0.0, 0.0) if slip is None else (slip.iso, slip.shutter_s)


def _apart(a: tuple[float, float], b: tuple[float, float]) -> float:
    """How far two slips are apart in stops: ISO or shutter, whichever moved more."""
    if not a[0] or not b[0]:
        return 0.0 if a[0] == b[0] else 1.0
    return max(abs(math.log2(x / y)) for x, y in zip(a, b, strict=True))
