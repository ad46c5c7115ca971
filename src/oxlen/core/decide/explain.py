"""Why: one reason for each value on the slip, as data and as a sentence."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decide.aim import Aim
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.school import preference_of
from oxlen.core.decide.search import Slip
from oxlen.core.labels import ev_label, shutter_label, stops_label

ISO_CEILINGS = {"iso_cap": "as high as your cap allows", "noise": "", "noise_dark": ""}


@dataclass(frozen=True)
class Reason:
    """Why a value came out as it did: the value, the limit or rule behind it, the sentence."""

    value: str
    because: str
    text: str


@dataclass(frozen=True)
class Decided:
    """What reasons are given for: the slip, under which limits, and which of them decided it."""

    brief: Brief
    aim: Aim
    limits: tuple[Limit, ...]
    binding: frozenset[str]
    slip: Slip

    def deciding(self, axis: str, end: str) -> Limit | None:
        """The tightest binding limit at one end of an axis, the device's own left out."""
        bounds = [
            limit
            for limit in self.limits
            if limit.axis == axis
            and limit.id in self.binding
            and limit.owner != "device"
            and getattr(limit, end) is not None
        ]
        pick = min if end == "high" else max
        return pick(bounds, key=lambda limit: getattr(limit, end), default=None)


def reasons_for(decided: Decided) -> tuple[Reason, ...]:
    """One reason for each value of the slip, the exposure first."""
    return (
        exposure_reason(decided.brief, decided.aim),
        _lens_reason(decided.brief),
        _iso_reason(decided),
        _shutter_reason(decided),
    )


def exposure_reason(brief: Brief, aim: Aim) -> Reason:
    """Why the picture is exposed as it is."""
    return Reason("exposure", brief.school.exposure, " ".join(aim.sentences))


def residual_words(residual_stops: float) -> str:
    """How the slip errs, in words.

    >>> residual_words(-0.3), residual_words(0.01)
    ('0.3 stop darker than wanted', 'on the wanted exposure')
    """
    if abs(residual_stops) < 0.05:
        return "on the wanted exposure"
    side = "brighter" if residual_stops > 0 else "darker"
    return f"{stops_label(residual_stops)} {side} than wanted"


def _lens_reason(brief: Brief) -> Reason:
    lens = brief.lens
    chosen = "your choice" if brief.lens_id else "the phone's first lens"
    return Reason("lens", "lens", f"{chosen}; it fixes the aperture at f/{lens.f_number:g}")


def _iso_reason(decided: Decided) -> Reason:
    brief, slip = decided.brief, decided.slip
    lowest, highest = brief.mode.manual.iso[0], brief.mode.manual.iso[-1]
    if slip.iso == lowest:
        return Reason("iso", "device_iso", "the lowest this phone has, for the least noise")
    ceiling = decided.deciding("iso", "high")
    if ceiling is not None and slip.iso == _top_below(brief, ceiling.high):
        words = ISO_CEILINGS.get(ceiling.id) or _lower_first(ceiling.reason)
        return Reason("iso", ceiling.id, words)
    if slip.iso == highest:
        return Reason("iso", "device_iso", "the highest this phone has")
    return _raised_iso_reason(decided)


def _raised_iso_reason(decided: Decided) -> Reason:
    brief = decided.brief
    if brief.iso_school == "shutter_first":
        return Reason("iso", "shutter_first", "whatever the shutter you put first asks for")
    longest = decided.deciding("shutter_s", "high")
    if brief.iso_school == "ceiling" and longest is not None:
        words = f"raised to keep the shutter well inside “{longest.name}”"
        return Reason("iso", "ceiling", words)
    if longest is not None:
        words = (
            f"the lowest that keeps the shutter at {shutter_label(longest.high or 1)} or shorter"
        )
        return Reason("iso", longest.id, words)
    return Reason("iso", "device_shutter", "the lowest the shutter range leaves room for")


def _shutter_reason(decided: Decided) -> Reason:
    brief, slip = decided.brief, decided.slip
    asked = brief.school.shutter_s
    if brief.iso_school == "shutter_first" and asked:
        words = f"the nearest to {shutter_label(asked)} that the light and this phone allow"
        return Reason("shutter_s", "shutter_first", words)
    for kind in ("show", "freeze", "flicker", "hold"):
        limit = _binding_kind(decided, kind)
        if limit is not None:
            return Reason("shutter_s", limit.id, _lower_first(limit.reason))
    liked = preference_of(brief, decided.limits).liked_shutter_s
    if brief.iso_school == "shutter_first" and liked:
        words = f"the nearest to {shutter_label(liked)}, a stop inside the blur limit"
        return Reason("shutter_s", "shutter_first", words)
    words = f"what ISO {slip.iso:g} needs for {ev_label(decided.aim.ev100)}"
    if brief.glass_on:
        words += f" through {' and '.join(glass.name for glass in brief.glass_on)}"
    return Reason("shutter_s", brief.school.exposure, words)


def _binding_kind(decided: Decided, kind: str) -> Limit | None:
    return next((x for x in decided.limits if x.kind == kind and x.id in decided.binding), None)


def _top_below(brief: Brief, cap: float | None) -> float | None:
    below = [iso for iso in brief.mode.manual.iso if cap is not None and iso <= cap * (1 + 1e-9)]
    return below[-1] if below else None


def _lower_first(sentence: str) -> str:
    return sentence[0].lower() + sentence[1:]
