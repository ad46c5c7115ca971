"""A take held against its plan: what is off, why, and the one thing to change next."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import median
from typing import Literal

from oxlen.core.labels import amount_label, shutter_label, stops_label
from oxlen.core.review.blur_cause import BlurCause

LightVerdict = Literal["as_planned", "light_changed", "read_wrongly", "unknown"]
RAW_SURE_STOPS, PROCESSED_SURE_STOPS = 0.3, 0.6
"""A tone further off than this was not as planned: a processed file bends its tones."""
DIALLED_STOPS = 0.17
"""Settings further off than half a third were dialled otherwise."""
LOST_SHARE = 0.3
CAST_MIRED, LEAN_DEG = 15.0, 0.7
BLUR_SEEN_PX = 1.7
MOST_STOPS = 12.0
WHITE_SHARE = 0.025
"""So much more of the frame white than planned is seen."""
WHITE_STOPS, LEAST_DARKER_STOPS, MOST_DARKER_STOPS = 3.0, 0.3, 1.0
"""How much darker for how much white: skies fill a third of a frame within a stop of white."""
BEYOND_STOPS = 1.5
"""How far beyond white or black a spot is taken to lie where nothing tells."""


@dataclass(frozen=True)
class PlannedSpot:
    """A spot of the plan: where it was wanted and where it was to land, in stops from mid."""

    name: str
    role: str
    wanted_stops: float
    lands_stops: float


@dataclass(frozen=True)
class SeenSpot:
    """The same spot in the take: its tone in stops from mid, and the share of it that is lost.

    `is_reckoned` marks a lost spot whose tone follows from what the rest of the frame gained.
    """

    name: str
    stops: float
    clipped_share: float = 0.0
    blocked_share: float = 0.0
    is_reckoned: bool = False


@dataclass(frozen=True)
class TakeSettings:
    """What was dialled, or is said by a file; None where it does not say."""

    iso: float | None
    shutter_s: float | None
    white_k: float | None = None


@dataclass(frozen=True)
class SeenTake:
    """All that was measured in a take."""

    settings: TakeSettings
    spots: tuple[SeenSpot, ...]
    is_raw: bool
    blur: BlurCause | None = None
    lean_deg: float | None = None
    cast_mired: float | None = None
    clipped_share: float = 0.0


@dataclass(frozen=True)
class SettingsOff:
    """How far it was dialled from the slip: stops brighter, kelvin higher; None where unknown."""

    iso_stops: float | None
    shutter_stops: float | None
    kelvin: float | None

    @property
    def stops(self) -> float:
        """Exposure dialled brighter than the slip, as far as it is known."""
        return (self.iso_stops or 0.0) + (self.shutter_stops or 0.0)


@dataclass(frozen=True)
class CheckedSpot:
    """A spot as it came out: `off_stops` brighter than wanted, `unexplained_stops` brighter than
    the settings and the plan's light account for.

    `is_told` is False where it is lost and nothing else tells its tone.
    """

    name: str
    role: str
    wanted_stops: float
    planned_stops: float
    seen_stops: float
    off_stops: float
    unexplained_stops: float
    is_lost: bool
    is_told: bool = True


@dataclass(frozen=True)
class Change:
    """The one thing to change first, and why; `light_stops` is how much stronger the light is than
    the plan took it for, and `white_k` what the dial should stand at."""

    what: Literal["nothing", "dial", "light", "steady", "freeze", "focus", "white", "level"]
    words: str
    why: str
    light_stops: float = 0.0
    white_k: float | None = None


@dataclass(frozen=True)
class TakeCheck:
    """What became of a take: everything off, in words ordered by what matters, and the change."""

    settings_off: SettingsOff
    spots: tuple[CheckedSpot, ...]
    light: LightVerdict
    light_stops: float
    verdict: tuple[str, ...]
    change: Change


def check_take(
    slip: TakeSettings,
    planned: Sequence[PlannedSpot],
    seen: SeenTake,
    *,
    metered_by_picture: bool = True,
    white_share: float | None = None,
) -> TakeCheck:
    """Hold a take against the slip it was shot by and the spots as they were planned.

    `metered_by_picture` tells light that has changed since from a reading that was wrong: all
    spots of one picture are not read wrongly by the same amount. `white_share` of the frame was to
    turn white.
    """
    off = settings_off(slip, seen.settings)
    spots = tuple(_spots(planned, seen.spots, off.stops))
    light, light_stops = _light(spots, seen.is_raw, metered_by_picture)
    changes = list(_changes(slip, seen, (off, spots, light, light_stops)))
    white = _whiter(seen, white_share, changes)
    if white is not None:
        changes.append(white)
        changes.sort(key=lambda one: one.what not in ("dial", "light"))
    change = changes[0] if changes else Change("nothing", "Keep it.", "All is as planned.")
    verdict = tuple(f"{one.why}" for one in changes) or ("As planned.",)
    return TakeCheck(off, spots, light, light_stops=light_stops, verdict=verdict, change=change)


def settings_off(slip: TakeSettings, seen: TakeSettings) -> SettingsOff:
    """How far a take was dialled from its slip."""
    return SettingsOff(
        _stops(seen.iso, slip.iso),
        _stops(seen.shutter_s, slip.shutter_s),
        None if seen.white_k is None or slip.white_k is None else seen.white_k - slip.white_k,
    )


def _stops(seen: float | None, planned: float | None) -> float | None:
    return None if seen is None or planned is None else math.log2(seen / planned)


def _spots(
    planned: Sequence[PlannedSpot], seen: Sequence[SeenSpot], dialled_stops: float
) -> Iterator[CheckedSpot]:
    found = {one.name: one for one in seen}
    for spot in planned:
        one = found.get(spot.name)
        if one is None:
            continue
        stops = min(max(one.stops, -MOST_STOPS), MOST_STOPS)
        is_lost = (
            max(one.clipped_share, one.blocked_share) > LOST_SHARE and spot.role != "keep-dark"
        )
        yield CheckedSpot(
            spot.name,
            spot.role,
            spot.wanted_stops,
            planned_stops=spot.lands_stops,
            seen_stops=stops,
            off_stops=stops - spot.wanted_stops,
            unexplained_stops=stops - spot.lands_stops - dialled_stops,
            is_lost=is_lost,
            is_told=one.is_reckoned or max(one.clipped_share, one.blocked_share) <= LOST_SHARE,
        )


def _light(
    spots: Sequence[CheckedSpot], is_raw: bool, metered_by_picture: bool
) -> tuple[LightVerdict, float]:
    """Whether light or reading explains what the settings do not, and by how many stops."""
    told = [one.unexplained_stops for one in spots if one.is_told]
    if not told:
        return _guessed(spots)
    sure = RAW_SURE_STOPS if is_raw else PROCESSED_SURE_STOPS
    if all(abs(one) <= sure for one in told):
        return "as_planned", 0.0
    alike = max(told) - min(told) <= 2 * sure
    if alike and metered_by_picture:
        return "light_changed", median(told)
    # The first matters most: it is not to pay for what others are off.
    return "read_wrongly", told[0] if abs(told[0]) > sure else median(told)


def _guessed(spots: Sequence[CheckedSpot]) -> tuple[LightVerdict, float]:
    """With everything white or black, a step of about the size that usually brings it back."""
    lost = [one for one in spots if one.is_lost]
    if not lost:
        return "unknown", 0.0
    beyond = max(lost, key=lambda one: abs(one.unexplained_stops)).unexplained_stops
    return "read_wrongly", beyond + math.copysign(BEYOND_STOPS, beyond)


Found = tuple[SettingsOff, tuple[CheckedSpot, ...], LightVerdict, float]


def _changes(slip: TakeSettings, seen: SeenTake, found: Found) -> Iterator[Change]:
    """What is off, that which spoils most first."""
    off, spots, light, light_stops = found
    if abs(off.stops) >= DIALLED_STOPS or abs(off.iso_stops or 0) >= DIALLED_STOPS:
        yield _dialled(slip, seen.settings, off)
    if light in ("light_changed", "read_wrongly") and abs(light_stops) >= RAW_SURE_STOPS:
        yield _light_change(spots, light, light_stops)
    if seen.blur is not None and seen.blur.kind != "none" and seen.blur.px >= BLUR_SEEN_PX:
        yield _blur(slip, seen.blur)
    if seen.cast_mired is not None and abs(seen.cast_mired) >= CAST_MIRED:
        yield _cast(slip.white_k or seen.settings.white_k, seen.cast_mired, is_raw=seen.is_raw)
    if seen.lean_deg is not None and abs(seen.lean_deg) >= LEAN_DEG:
        way = "anticlockwise" if seen.lean_deg < 0 else "clockwise"
        by = f"{abs(seen.lean_deg):.1f}°"
        yield Change("level", f"Turn the phone {by} {way}.", f"It leans by {by}.")


def _whiter(seen: SeenTake, white_share: float | None, others: Sequence[Change]) -> Change | None:
    """Much more of the frame is white than was planned, and no other change mends that."""
    more = seen.clipped_share - (white_share or 0.0)
    if white_share is None or more < WHITE_SHARE:
        return None
    if any(one.what in ("dial", "light", "white") for one in others):
        return None
    stops = min(MOST_DARKER_STOPS, max(LEAST_DARKER_STOPS, WHITE_STOPS * more))
    why = f"{seen.clipped_share:.0%} of the frame is white, where {white_share:.0%} was planned."
    return Change("light", "Dial the new slip: a little darker.", why, light_stops=stops)


def _dialled(slip: TakeSettings, seen: TakeSettings, off: SettingsOff) -> Change:
    iso = "" if seen.iso is None else f"ISO {seen.iso:g}"
    shutter = "" if seen.shutter_s is None else shutter_label(seen.shutter_s)
    was = " and ".join(part for part in (iso, shutter) if part)
    by = ""
    if abs(off.stops) >= DIALLED_STOPS:
        by = f": {amount_label(abs(off.stops))} {'brighter' if off.stops > 0 else 'darker'}"
    wanted = f"ISO {slip.iso:g}, {shutter_label(slip.shutter_s or 1.0)}"
    why = f"It was dialled otherwise, {was}{by}."
    return Change("dial", f"Dial the slip: {wanted}.", why)


def _light_change(spots: Sequence[CheckedSpot], light: LightVerdict, light_stops: float) -> Change:
    more = "more" if light_stops > 0 else "less"
    by = amount_label(abs(light_stops))
    lost = next((one for one in spots if one.is_lost), None)
    ends = f" {lost.name} is lost." if lost is not None else ""
    if light == "light_changed":
        why = f"The light changed: {by} {more} than when it was read.{ends}"
    else:
        worst = max(spots, key=lambda one: abs(one.unexplained_stops))
        why = f"{worst.name} has {by} {more} light than was read.{ends}"
    return Change("light", "Dial the new slip.", why, light_stops=light_stops)


def _blur(slip: TakeSettings, blur: BlurCause) -> Change:
    by = f"{blur.px:.0f} px"
    shorter_s = (slip.shutter_s or 1.0) / max(1.0, blur.px / BLUR_SEEN_PX)
    if blur.kind == "shake":
        why = f"The hand shook: all of it is smeared by {by}."
        words = f"Brace it or use the timer; else {shutter_label(shorter_s)} or shorter."
        return Change("steady", words, why)
    if blur.kind == "motion":
        why = f"It moved: smeared by {by} while the rest is sharp."
        return Change("freeze", f"{shutter_label(shorter_s)} or shorter, or pan along.", why)
    why = f"It is out of focus, spread over {by}."
    return Change("focus", "Tap the subject and lock focus there.", why)


def _cast(white_k: float | None, cast_mired: float, *, is_raw: bool) -> Change:
    side = "warm" if cast_mired > 0 else "cool"
    why = f"What should be grey is {abs(cast_mired):.0f} mired too {side}."
    if white_k is None:
        return Change("white", "Set white balance by hand, for this light.", why)
    better_k = 1e6 / (1e6 / white_k + cast_mired)
    words = f"White balance to {round(better_k, -2):.0f} K."
    if is_raw:
        words += " RAW keeps it open: this take can be developed so."
    return Change("white", words, why, white_k=better_k)


def spoken_off(spot: CheckedSpot) -> str:
    """How a spot came out against the plan, in a few words."""
    if spot.is_lost:
        return "no detail left"
    off = spot.seen_stops - spot.planned_stops
    if abs(off) < RAW_SURE_STOPS:
        return "as planned"
    return f"{stops_label(abs(off))} {'brighter' if off > 0 else 'darker'} than planned"
