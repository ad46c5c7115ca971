"""Limits: rules that bound a setting. Each is data with an axis, bounds, a reason and a source.

A new limit is one function from the brief to a `Limit` (or None), added to `LIMITS`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from oxlen.core.decide.brief import Brief
from oxlen.core.hold.hand import BRACED_STOPS, support_limit_s
from oxlen.core.labels import ev_label, shutter_label, signed

Axis = Literal["shutter_s", "iso", "ev100_set"]


@dataclass(frozen=True)
class Limit:
    """A bound on one axis, with why and whence.

    `computation` names the registry entry that gave the bound and `inputs` what it was given.
    `owner` is *device* for what the phone cannot do at all. With `base_iso` set, `low` rises
    stop for stop below that ISO.
    """

    id: str
    axis: Axis
    low: float | None
    high: float | None
    name: str
    reason: str
    source: str
    owner: Literal["device", "rule", "user"] = "rule"
    computation: str | None = None
    inputs: Mapping[str, float | str] = field(default_factory=dict)
    base_iso: float | None = None


def device_shutter_limit(brief: Brief) -> Limit:
    """The shutter range of the mode's manual ladder."""
    steps = brief.mode.manual.shutter_s
    return Limit(
        "device_shutter",
        "shutter_s",
        steps[0],
        steps[-1],
        "shutter range",
        f"{brief.phone.name} offers {shutter_label(steps[0])} to {shutter_label(steps[-1])} "
        "by hand on this lens",
        "phone profile",
        owner="device",
    )


def device_iso_limit(brief: Brief) -> Limit:
    """The ISO range of the mode's manual ladder."""
    steps = brief.mode.manual.iso
    return Limit(
        "device_iso",
        "iso",
        steps[0],
        steps[-1],
        "ISO range",
        f"{brief.phone.name} offers ISO {steps[0]:g} to {steps[-1]:g} by hand on this lens",
        "phone profile",
        owner="device",
    )


def hold_limit(brief: Brief) -> Limit | None:
    """Longest shutter the hand or rest holds still; none on a tripod."""
    lens = brief.lens
    longest = support_limit_s(brief.support, lens.focal35_mm, lens.stabiliser_stops)
    if longest is None:
        return None
    steadiness = lens.stabiliser_stops + (BRACED_STOPS if brief.support == "braced" else 0.0)
    held = "Braced" if brief.support == "braced" else "In the hand"
    return Limit(
        "hold",
        "shutter_s",
        None,
        longest,
        "hold still",
        f"{held}, {lens.focal35_mm:g} mm stays sharp to about {shutter_label(longest)}",
        "rule of hand with the stabiliser's stops",
        computation="handheld_limit",
        inputs={"f35": lens.focal35_mm, "stab": steadiness},
    )


def iso_cap_limit(brief: Brief) -> Limit | None:
    """The ISO the photographer will not go above."""
    cap = brief.school.iso_cap
    if cap is None:
        return None
    return Limit(
        "iso_cap",
        "iso",
        None,
        cap,
        "your ISO cap",
        f"You set ISO {cap:g} as the most noise you take",
        "your choice",
        owner="user",
    )


def highlight_limit(brief: Brief) -> Limit | None:
    """Lowest EV100 that keeps the brightest marked detail under clipping."""
    bright = [r.ev100 for r in brief.readings if r.role == "keep-bright"]
    if not bright:
        return None
    mode = brief.mode
    headroom = mode.headroom_stops(brief.file_format)
    lowest = max(bright) - headroom
    return Limit(
        "highlights",
        "ev100_set",
        lowest,
        None,
        "keep highlights",
        f"The brightest detail is {ev_label(max(bright))} and clips {signed(headroom)} from mid",
        "phone profile, after ISO 12232",
        computation="headroom_check",
        inputs={"ev100_hi": max(bright), "headroom": headroom},
        base_iso=mode.sensor.base_iso,
    )


LIMITS: tuple[Callable[[Brief], Limit | None], ...] = (
    device_shutter_limit,
    device_iso_limit,
    hold_limit,
    iso_cap_limit,
    highlight_limit,
)


def limits_of(brief: Brief) -> tuple[Limit, ...]:
    """Every limit that applies to a brief, in a fixed order."""
    found = (rule(brief) for rule in LIMITS)
    return tuple(limit for limit in found if limit is not None)
