"""A take compared with its plan: what is off, why, and the one thing to change next."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import median

from oxlen.core.labels import stops_label
from oxlen.core.review.take_changes import (
    CAST_MIRED,
    LOST_STOPS,
    changes_for,
    lost_change,
    noise_first,
    whiter_change,
)
from oxlen.core.review.take_seen import (
    Change,
    CheckedSpot,
    LightVerdict,
    PlannedSpot,
    SeenSpot,
    SeenTake,
    SettingsOff,
    TakeSettings,
    TakeState,
)

RAW_SURE_STOPS, PROCESSED_SURE_STOPS = 0.34, 0.6
"""A tone further off than this was not as planned: RAW by a step of most dials, a third of a stop;
a processed file bends its tones."""
LOST_SHARE = 0.3
MOST_STOPS = 12.0
BEYOND_STOPS = 1.5
"""How far beyond white or black a spot is taken to be where nothing shows it."""


@dataclass(frozen=True)
class TakeCheck:
    """What became of a take: everything off, in words ordered by what matters, and the change."""

    settings_off: SettingsOff
    spots: tuple[CheckedSpot, ...]
    light: LightVerdict
    light_stops: float
    verdict: tuple[str, ...]
    change: Change
    state: TakeState


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
    clip.
    """
    off = settings_off(slip, seen.settings)
    spots = tuple(_spots(planned, seen.spots, off.stops))
    light, light_stops = _light(spots, seen.is_raw, metered_by_picture)
    is_cast = seen.cast_mired is not None and abs(seen.cast_mired) >= CAST_MIRED
    # A wrong white balance clips one colour: until it is right nothing tells of the light.
    if seen.is_total or (is_cast and not any(spot.is_known for spot in spots)):
        light, light_stops = "unknown", 0.0
    changes = list(changes_for(slip, seen, (off, spots, light, light_stops)))
    more = (lost_change(spots, changes), whiter_change(seen, spots, white_share, others=changes))
    for next_change in more:
        if next_change is not None:
            changes.append(next_change)
            changes.sort(key=lambda each: each.what not in ("dial", "light"))
    changes = noise_first(seen, changes)
    state: TakeState = "change" if changes else "not judged" if seen.unjudged else "keep"
    change, verdict = _summed_up(changes, seen)
    return TakeCheck(
        off, spots, light, light_stops=light_stops, verdict=verdict, change=change, state=state
    )


def _summed_up(changes: Sequence[Change], seen: SeenTake) -> tuple[Change, tuple[str, ...]]:
    """The first change, and every reason; what is not judged is never reported as planned."""
    if changes:
        return changes[0], tuple(change.why for change in changes)
    if seen.unjudged:
        why = seen.unjudged[0]
        return Change("nothing", "Check it yourself, zoomed in.", why), (why,)
    return Change("nothing", "Keep it.", "Everything is as planned."), ("As planned.",)


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
    found = {seen_spot.name: seen_spot for seen_spot in seen}
    for spot in planned:
        seen_spot = found.get(spot.name)
        if seen_spot is None:
            continue
        stops = min(max(seen_spot.stops, -MOST_STOPS), MOST_STOPS)
        is_lost = (
            max(seen_spot.clipped_share, seen_spot.blocked_share) > LOST_SHARE
            and spot.role != "keep-dark"
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
            is_known=seen_spot.is_reckoned
            or max(seen_spot.clipped_share, seen_spot.blocked_share) <= LOST_SHARE,
            plus_minus_stops=spot.plus_minus_stops,
            may_be_lost=spot.may_be_lost,
            is_clipped=seen_spot.clipped_share > LOST_SHARE,
            lost_share=max(seen_spot.clipped_share, seen_spot.blocked_share),
            is_alone=seen_spot.is_alone,
        )


def _light(
    spots: Sequence[CheckedSpot], is_raw: bool, metered_by_picture: bool
) -> tuple[LightVerdict, float]:
    """Whether light or reading explains what the settings do not, and by how many stops."""
    values = [spot.unexplained_stops for spot in spots if spot.is_known]
    if not values:
        return _guessed(spots)
    sure = RAW_SURE_STOPS if is_raw else PROCESSED_SURE_STOPS
    if all(abs(stops) <= sure for stops in values):
        return "as_planned", 0.0
    alike = max(values) - min(values) <= 2 * sure
    # By less than the readings may be off, nothing says that the light itself changed.
    doubt = max(spot.plus_minus_stops for spot in spots if spot.is_known)
    if alike and metered_by_picture and abs(median(values)) > doubt:
        return "light_changed", median(values)
    # The first matters most: it is not to pay for what others are off.
    return "read_wrongly", values[0] if abs(values[0]) > sure else median(values)


def _guessed(spots: Sequence[CheckedSpot]) -> tuple[LightVerdict, float]:
    """With everything white or black, a step of about the size that usually brings it back."""
    lost = [spot for spot in spots if spot.is_lost]
    if not lost:
        return "unknown", 0.0
    worst = max(lost, key=lambda change: abs(change.unexplained_stops))
    beyond = worst.unexplained_stops
    # The rest of the frame bounds how far a lone spot can be off.
    by = LOST_STOPS if worst.is_alone else BEYOND_STOPS
    return "read_wrongly", beyond + math.copysign(by, beyond)


def spoken_off(spot: CheckedSpot) -> str:
    """How a spot compares with the plan, in a few words."""
    if spot.is_lost:
        return "without detail"
    off = spot.seen_stops - spot.planned_stops
    if abs(off) < RAW_SURE_STOPS:
        return "as planned"
    return f"{stops_label(abs(off))} {'brighter' if off > 0 else 'darker'} than planned"
