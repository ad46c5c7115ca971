"""Stars drawn as trails on purpose: frames without gaps that show, the lighter of each kept."""

from __future__ import annotations

import math
from collections.abc import Iterator

from oxlen.core.decisions.sequence.ask import MOST_FRAMES
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.labels import time_label, two_digits
from oxlen.core.light.exposure import ev100
from oxlen.core.night.ask import NightAsk
from oxlen.core.sky.brightness import sky_ev100
from oxlen.core.sky.trailing import star_trail_px

LONGEST_FRAME_S = 30.0
"""A longer frame loses more to one passing lamp than it saves in gaps."""
TURN_DEG_S = 15.041 / 3600
GAP_SHOWS_PX = 1.0
MOST_TOGETHER = 500


def trail_settings(lens: Lens, mode: Mode, asked: NightAsk) -> tuple[float, float]:
    """ISO and shutter (s) of each frame of trails: the longest, at which the sky stays dark."""
    shutters = mode.manual.shutter_s
    shutter_s = max(
        (shutter for shutter in shutters if shutter <= LONGEST_FRAME_S), default=min(shutters)
    )
    wanted = float(sky_ev100(asked.sky_magnitude)) - asked.sky_place_stops
    wanted_iso = 100 * 2.0 ** (float(ev100(lens.f_number, shutter_s, 100.0)) - wanted)
    # Not lighter than wanted: what is added by the lighter of each place only grows.
    darker = [iso for iso in mode.manual.iso if iso <= wanted_iso * 1.1]
    return max(darker, default=mode.manual.iso[0]), shutter_s


def trail_frames(asked: NightAsk, *, shutter_s: float, gap_s: float) -> int:
    """How many frames turn the sky by the arc asked for, in the dark there is."""
    time_s = asked.arc_deg / TURN_DEG_S
    if asked.window_s is not None:
        time_s = min(time_s, asked.window_s)
    frames = math.ceil((time_s + gap_s) / (shutter_s + gap_s) - 1e-9)
    return min(max(2, frames), MOST_FRAMES)


def trail_words(
    lens: Lens,
    mode: Mode,
    asked: NightAsk,
    *,
    elapsed_s: float,
    shutter_s: float,
    gap_s: float,
) -> Iterator[str]:
    """What to know of trails: their arc, their gaps, and how they are stacked."""
    arc = elapsed_s * TURN_DEG_S
    yield f"Stars turn {arc:.0f}° in {time_label(60 * round(elapsed_s / 60))}"
    frames = elapsed_s / (shutter_s + gap_s)
    if arc < 0.95 * asked.arc_deg:
        is_full = frames > 0.99 * MOST_FRAMES
        why = f"{MOST_FRAMES} frames are too few" if is_full else "The dark is too short"
        yield f"{why} for {asked.arc_deg:.0f}°"
    if gap_s > 0:
        gap_px = star_trail_px(
            lens.focal_mm, mode.pixel_pitch_um, gap_s, declination_deg=asked.declination_deg
        )
        gap = two_digits(float(gap_px))
        if gap_px > GAP_SHOWS_PX:
            yield (
                f"Pauses of {time_label(gap_s)} leave gaps of {gap} px. Close them when stacking"
            )
        else:
            yield f"Pauses of {time_label(gap_s)} leave {gap} px. No gap shows"
    if frames > MOST_TOGETHER:
        yield (f"More than {MOST_TOGETHER} frames. Stack them in groups, then stack the groups")
    yield "Stack without alignment, rule Lighten. The foreground stays dark"
