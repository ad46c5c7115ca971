"""Every rule that makes limits, in the order they are listed."""

from __future__ import annotations

from oxlen.core.decide.aim import exposure_aim
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.limits import (
    Limit,
    Rule,
    Situation,
    device_iso_limit,
    device_shutter_limit,
    highlight_limit,
    hold_limit,
    iso_cap_limit,
)
from oxlen.core.decide.limits_motion import flicker_limits, freeze_limits, show_limits
from oxlen.core.decide.limits_noise import noise_limits

LIMITS: tuple[Rule, ...] = (
    device_shutter_limit,
    device_iso_limit,
    hold_limit,
    freeze_limits,
    show_limits,
    flicker_limits,
    iso_cap_limit,
    noise_limits,
    highlight_limit,
)


def limits_of(brief: Brief) -> tuple[Limit, ...]:
    """Every limit that applies to a brief, in a fixed order."""
    return limits_in(Situation(brief, exposure_aim(brief)))


def limits_in(situation: Situation) -> tuple[Limit, ...]:
    """Every limit that applies in a situation; those without any bound are left out."""
    found = (limit for rule in LIMITS for limit in rule(situation))
    return tuple(limit for limit in found if limit.low is not None or limit.high is not None)
