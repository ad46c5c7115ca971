"""Limits as data: each has an axis, bounds, a reason and a source.

To add one: write a function from a `Situation` to limits and list it in `LIMITS`; everything else
(search, window, conflict, map, screens) takes limits as they come.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from oxlen.core.decide.aim import TELLING_STOPS, Aim, first_to_clip
from oxlen.core.decide.brief import Brief
from oxlen.core.hold.burst import burst_stops
from oxlen.core.hold.hand import hand_limit_s, steadied_stops
from oxlen.core.labels import ev_label, shutter_label, signed, stops_label

Axis = Literal["shutter_s", "iso", "ev100_set"]


@dataclass(frozen=True)
class Limit:
    """A bound on one axis, with why and whence.

    `computation` names the registry entry that gave the bound and `inputs` what it was given.
    `owner` is *device* for what the phone cannot do at all. With `base_iso` set, `low` rises
    stop for stop below that ISO. With `only`, just those values of the axis are allowed.
    `kind` is the same for limits of one sort, however many there are.
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
    only: tuple[float, ...] | None = None

    @property
    def kind(self) -> str:
        """The sort of limit: the id without its number."""
        return self.id.split("-")[0]


@dataclass(frozen=True)
class Situation:
    """What limits are made from: the brief, and the exposure it asks for."""

    brief: Brief
    aim: Aim


Rule = Callable[[Situation], Iterable[Limit]]


def device_shutter_limit(situation: Situation) -> Iterable[Limit]:
    """The shutter range of the mode's manual ladder."""
    brief = situation.brief
    steps = brief.mode.manual.shutter_s
    yield Limit(
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


def device_iso_limit(situation: Situation) -> Iterable[Limit]:
    """The ISO range of the mode's manual ladder."""
    brief = situation.brief
    steps = brief.mode.manual.iso
    yield Limit(
        "device_iso",
        "iso",
        steps[0],
        steps[-1],
        "ISO range",
        f"{brief.phone.name} offers ISO {steps[0]:g} to {steps[-1]:g} by hand on this lens",
        "phone profile",
        owner="device",
    )


def hold_limit(situation: Situation) -> Iterable[Limit]:
    """Longest shutter the hand or rest holds still; none on a tripod or while panning."""
    brief = situation.brief
    if brief.support == "tripod" or brief.is_panned:
        return
    lens, hold = brief.lens, brief.hold
    extra = burst_stops(hold.burst, hold.chance) if hold.burst > 1 else 0.0
    steadiness = steady_stops(brief) + extra + hold.risk_stops
    longest = float(hand_limit_s(lens.focal35_mm, steadiness))
    held = "Braced" if brief.support == "braced" else "In the hand"
    yield Limit(
        "hold",
        "shutter_s",
        None,
        longest,
        "hold still",
        f"{held}, {lens.focal35_mm:g} mm stays sharp to about {shutter_label(longest)}"
        + _hold_more(brief, extra),
        "rule of hand with the stabiliser's stops",
        computation="handheld_limit",
        inputs={"f35": lens.focal35_mm, "stab": steadiness},
    )


def steady_stops(brief: Brief) -> float:
    """Stops the stabiliser and a rest add to the bare rule of hand."""
    own = brief.hold.stabiliser_stops
    stabiliser = brief.lens.stabiliser_stops if own is None else own
    return steadied_stops(stabiliser, brief.support)


def _hold_more(brief: Brief, burst_extra: float) -> str:
    words = ""
    if burst_extra:
        chance = f"{brief.hold.chance:.0%} chance of a sharp one"
        words += f", with a burst of {brief.hold.burst} for {chance}"
    if brief.hold.risk_stops:
        words += f", {stops_label(brief.hold.risk_stops)} of shake accepted"
    return words


def iso_cap_limit(situation: Situation) -> Iterable[Limit]:
    """The ISO the photographer will not go above."""
    cap = situation.brief.school.iso_cap
    if cap is None:
        return
    yield Limit(
        "iso_cap",
        "iso",
        None,
        cap,
        "your ISO cap",
        f"You set ISO {cap:g} as the most noise you take",
        "your choice",
        owner="user",
    )


def highlight_limit(situation: Situation) -> Iterable[Limit]:
    """Lowest EV100 that keeps the brightest marked detail under clipping."""
    brief = situation.brief
    first = first_to_clip(brief.readings)
    if first is None:
        return
    mode, clips_as = brief.mode, first.clips_as_ev100
    colour = f", its strongest colour {stops_label(first.channel_stops)} above"
    sooner = colour if first.channel_stops >= TELLING_STOPS else ""
    headroom = mode.headroom_stops(brief.file_format)
    yield Limit(
        "highlights",
        "ev100_set",
        clips_as - headroom,
        None,
        "keep highlights",
        f"The brightest detail is {ev_label(first.ev100)}{sooner} "
        f"and clips {signed(headroom)} from mid",
        "phone profile, after ISO 12232",
        computation="headroom_check",
        inputs={
            "ev100_hi": clips_as,
            "ev100_set": situation.aim.ev100,
            "headroom": headroom,
        },
        base_iso=mode.sensor.base_iso,
    )
