"""What a time shows of something that moves: its streak, ripples that pass, what is left of it."""

from __future__ import annotations

from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.motion.looks import ripple_period_s
from oxlen.core.motion.subject import (
    VANISHING_SHARE,
    blur_rate_um_s,
    covered_share,
    left_contrast,
)


def streak_share(brief: Brief, look: ShownMotion, elapsed_s: float) -> float | None:
    """Way of what moves in a time, as a share of the frame's short side; None if it is still."""
    rate = float(blur_rate_um_s(look.mover, brief.lens.focal_mm))
    side_um = min(brief.mode.width_px, brief.mode.height_px) * brief.mode.pixel_pitch_um
    return rate * elapsed_s / side_um if rate > 0 else None


def ripple_periods(look: ShownMotion, elapsed_s: float) -> float | None:
    """Ripples that pass a place in a time; None of what is no open water."""
    if look.look == "vanish" or not (look.usual is None or look.usual.ripples):
        return None
    return elapsed_s / float(ripple_period_s(float(look.in_force("width_m"))))


def left_share(look: ShownMotion, elapsed_s: float) -> float | None:
    """Contrast that a mover leaves after a time; None of what is not to vanish."""
    if look.look != "vanish":
        return None
    share = covered_share(float(look.in_force("width_m")), float(look.mover.speed_m_s), elapsed_s)
    return float(left_contrast(float(share), look.background_stops))


def has_vanished(left: float | None) -> bool | None:
    """Whether what is left of a mover is too little to be seen; None where nothing was to go."""
    return None if left is None else left < VANISHING_SHARE
