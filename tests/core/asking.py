"""Briefs and what they ask for, written short for tests: one keyword for each thing asked."""

import dataclasses
from typing import Any, Literal

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    HOLD,
    LAMPS,
    LENS_FILTERS,
    LOOKS,
    MOTION,
    OUTPUT,
    STRATEGY,
    SUPPORT,
    Lamps,
)
from oxlen.core.decisions.exposure.ask import Output as AskedOutput
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion, Sharp, ShownMotion
from oxlen.core.decisions.framework import brief as briefs
from oxlen.core.decisions.lens.ask import FRAMING, LENS, MODE
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.kit.phone import Phone
from oxlen.core.motion.looks import MotionLook
from oxlen.core.motion.sharpness import SharpBy
from oxlen.core.motion.subject import Mover

ASKS = {
    "support": SUPPORT,
    "strategy": STRATEGY,
    "file_format": FORMAT,
    "hold": HOLD,
    "freeze": MOTION,
    "show": LOOKS,
    "flicker": LAMPS,
    "output": OUTPUT,
    "glass_on": LENS_FILTERS,
    "frames": FRAMES,
    "framing": FRAMING,
    "lens_id": LENS,
    "mode_id": MODE,
}
LIGHT = {
    "readings": "readings_measured",
    "scene_mean_ev100": "mean_measured_ev100",
    "tones": "tones_measured",
    "glass_at_hand": "filters_at_hand",
    "phone": "phone",
}


ORDER = (
    "lens_id",
    "mode_id",
    "support",
    "readings",
    "strategy",
    "file_format",
    "scene_mean_ev100",
    "hold",
    "freeze",
    "show",
    "flicker",
    "output",
    "glass_on",
    "glass_at_hand",
    "frames",
    "framing",
    "tones",
)


def ask_brief(phone: Phone, *given: Any, **said: Any) -> briefs.Brief:
    """A brief for a phone; the rest in order, or by keyword."""
    made: briefs.Brief = replace(
        briefs.Brief(phone), **dict(zip(ORDER, given, strict=False)), **said
    )
    return made


def replace(asking: Any, **said: Any) -> Any:
    """A brief, or anything that may be asked, with some of it changed."""
    if isinstance(asking, briefs.Brief):
        light = {LIGHT[name]: value for name, value in said.items() if name in LIGHT}
        asking = dataclasses.replace(asking, **light)
        for name, value in said.items():
            if name in ASKS:
                asking = asking.asking(ASKS[name], value)
        assert set(said) <= set(LIGHT) | set(ASKS), said
        return asking
    if isinstance(asking, FrozenMotion):
        return ask_freeze(**{**_freeze_parts(asking), **said})
    return dataclasses.replace(asking, **said)


def _freeze_parts(motion: FrozenMotion) -> dict[str, Any]:
    return {
        "name": motion.name,
        "mover": motion.mover,
        "sharp_by": motion.sharp.by,
        "tolerance": motion.sharp.value,
        "off_axis_share": motion.off_axis,
        "pan_residual_share": motion.pan,
    }


def _moving(name: str, mover: Mover) -> dict[str, Any]:
    return {
        "name": name,
        "speed_m_s": mover.speed_m_s,
        "distance_m": mover.distance_m,
        "direction_deg": mover.angle_deg,
    }


def ask_freeze(
    name: str,
    mover: Mover,
    sharp_by: SharpBy = "circle",
    *,
    tolerance: float | None = None,
    off_axis_share: float = 0.25,
    pan_residual_share: float | None = None,
) -> FrozenMotion:
    """Something that moves and must be sharp."""
    sharp = Sharp(sharp_by, tolerance)
    return FrozenMotion(
        **_moving(name, mover), sharp=sharp, off_axis=off_axis_share, pan=pan_residual_share
    )


def ask_show(
    name: str,
    mover: Mover,
    look: MotionLook,
    *,
    share_min: float | None = None,
    share_max: float | None = None,
    **more: Any,
) -> ShownMotion:
    """Motion that is meant to show."""
    moving = _moving(name, mover)
    return ShownMotion(**moving, look=look.id, share_min=share_min, share_max=share_max, **more)


def ask_lamp(
    pulse_hz: float | None,
    _name: str = "a lamp",
    tolerance: float = 0.05,
    *,
    mains_hz: Literal[50, 60] | None = None,
) -> Lamps:
    """A lamp that pulses so often a second."""
    if mains_hz is not None:
        return Lamps(mains_hz=mains_hz, tolerance=tolerance)
    return Lamps(driver_hz=pulse_hz, tolerance=tolerance)


def ask_output(
    width_px: int | None = None, height_px: int | None = None, snr_floor: float | None = None
) -> AskedOutput:
    """Where it is seen, and the SNR wanted there."""
    return AskedOutput(None, width_px, height_px, "any" if snr_floor is None else snr_floor)
