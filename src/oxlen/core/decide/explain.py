"""Why: one reason for each value on the slip, as data and as a sentence."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from oxlen.core.decide.aim import Aim
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.school import longest_allowed_s
from oxlen.core.labels import ev_label, shutter_label, stops_label

if TYPE_CHECKING:
    from oxlen.core.decide.plan import Slip


@dataclass(frozen=True)
class Reason:
    """Why a value came out as it did: the value, the limit or rule behind it, the sentence."""

    value: str
    because: str
    text: str


def reasons_for(
    brief: Brief,
    aim: Aim,
    *,
    limits: tuple[Limit, ...],
    binding: frozenset[str],
    slip: Slip | None,
) -> tuple[Reason, ...]:
    """One reason for each value of the slip, the exposure first."""
    exposure = Reason("exposure", brief.school.exposure, " ".join(aim.sentences))
    if slip is None:
        return (exposure,)
    return (
        exposure,
        _lens_reason(brief),
        _iso_reason(brief, limits, binding, slip),
        _shutter_reason(brief, limits, binding, slip, aim),
    )


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


def _iso_reason(
    brief: Brief, limits: tuple[Limit, ...], binding: frozenset[str], slip: Slip
) -> Reason:
    lowest, highest = brief.mode.manual.iso[0], brief.mode.manual.iso[-1]
    if slip.iso == lowest:
        return Reason("iso", "device_iso", "the lowest this phone has, for the least noise")
    longest = longest_allowed_s(limits)
    if "iso_cap" in binding and slip.iso == _top_below(brief, brief.school.iso_cap):
        return Reason("iso", "iso_cap", "as high as your cap allows")
    if slip.iso == highest:
        return Reason("iso", "device_iso", "the highest this phone has")
    if brief.school.iso == "shutter_first":
        return Reason("iso", "shutter_first", "whatever the shutter you put first asks for")
    if brief.school.iso == "ceiling" and longest:
        return Reason("iso", "ceiling", "raised to keep the shutter well inside the hold limit")
    if longest:
        return Reason("iso", "hold", f"the lowest that keeps the shutter at {_at_most(longest)}")
    return Reason("iso", "device_shutter", "the lowest the shutter range leaves room for")


def _shutter_reason(
    brief: Brief, limits: tuple[Limit, ...], binding: frozenset[str], slip: Slip, aim: Aim
) -> Reason:
    if brief.school.iso == "shutter_first" and brief.school.shutter_s:
        asked = shutter_label(brief.school.shutter_s)
        return Reason(
            "shutter_s",
            "shutter_first",
            f"the nearest to {asked} that the light and this phone allow",
        )
    hold = next((limit for limit in limits if limit.id == "hold"), None)
    if "hold" in binding and hold is not None:
        return Reason("shutter_s", "hold", hold.reason[0].lower() + hold.reason[1:])
    return Reason(
        "shutter_s",
        brief.school.exposure,
        f"what ISO {slip.iso:g} needs for {ev_label(aim.ev100)}",
    )


def _top_below(brief: Brief, cap: float | None) -> float | None:
    below = [iso for iso in brief.mode.manual.iso if cap is not None and iso <= cap]
    return below[-1] if below else None


def _at_most(longest_s: float) -> str:
    return f"{shutter_label(longest_s)} or shorter"
