"""What is sharp at a focus distance: depth, background, slider steps, frames for a deep subject."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import OUTPUT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.errors import OutOfRange
from oxlen.core.focus.defocus import blur_disc_mm
from oxlen.core.focus.depth import Depth, depth_of_field, hyperfocal_mm
from oxlen.core.focus.optics import Optics
from oxlen.core.focus.slider import SliderScale
from oxlen.core.motion.sharpness import PIXELS, circle_of_confusion_um, output_blur_um

OVERLAP = 0.8
"""Frames of a focus stack overlap: each brings this much of its depth."""
MOST_FRAMES = 60


def optics_of(brief: Brief) -> Optics:
    """The lens in use, with the clip-on that is asked for."""
    clip_on = brief[FOCUS].clip_on
    dioptres = 0.0 if clip_on is None else clip_on.dioptres
    return Optics(brief.lens.focal_mm, brief.lens.f_number, dioptres)


def circle_mm(brief: Brief) -> float:
    """What still counts as sharp (mm on the sensor): where it will be seen, or as asked."""
    mode, asked, output = brief.mode, brief[FOCUS], brief[OUTPUT]
    if asked.sharp_at == "pixel":
        return PIXELS * mode.pixel_pitch_um / 1000
    stated = output.use is not None or output.height_px is not None
    if asked.sharp_at == "output" and stated:
        short_px = min(mode.width_px, mode.height_px)
        seen_px = min(output.short_side_px, short_px)
        return float(output_blur_um(short_px, mode.pixel_pitch_um, seen_px)) / 1000
    return float(circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um)) / 1000


@dataclass(frozen=True)
class Reach:
    """The distances (m) a lens can be focused at; `far_m` infinite but for a clip-on."""

    near_m: float
    far_m: float


def reach_of(brief: Brief) -> Reach:
    """From where to where the lens in use focuses, its clip-on counted."""
    drive, dioptres = brief.lens.focus, optics_of(brief).clip_on_dioptres
    closest_m = brief.lens.focal_mm / 200 if drive is None else drive.closest_m
    nearest = 1 / (1 / closest_m + dioptres)
    return Reach(nearest, 1 / dioptres if dioptres else math.inf)


@dataclass(frozen=True)
class FocusPlace:
    """The slider for a distance: the value it is left at, and the distance (m) that gives.

    `step_m` is how far one step moves the focus there.
    """

    value: float
    gives_m: float
    step_m: float
    plus_minus: float | None


def scale_in_use(brief: Brief) -> SliderScale | None:
    """The slider's scale with the clip-on that is on; None where focus cannot be dialled by it."""
    drive, clip_on = brief.lens.focus, brief[FOCUS].clip_on
    if drive is None or not drive.by_hand:
        return None
    return drive.scale("" if clip_on is None else clip_on.name)


def slider_for(brief: Brief, distance_m: float) -> float | None:
    """The value the slider is left at for a distance (m); None where it does not reach."""
    drive, scale = brief.lens.focus, scale_in_use(brief)
    value = None if scale is None else scale.value_for(distance_m)
    return None if drive is None or value is None else drive.snapped(value)


def focus_place(brief: Brief, distance_m: float) -> FocusPlace | None:
    """Where the slider goes for a distance; None without a scale, or where it does not reach."""
    drive, left_at = brief.lens.focus, slider_for(brief, distance_m)
    scale = scale_in_use(brief)
    if drive is None or scale is None or left_at is None:
        return None
    gives_m = scale.distance_at_m(left_at)
    step = scale.dioptres_a_step(left_at, drive.slider_step)
    step_m = math.inf if math.isinf(gives_m) else gives_m**2 * step
    return FocusPlace(left_at, gives_m, step_m, plus_minus=_doubt(scale, left_at))


def _doubt(scale: SliderScale, value: float) -> float | None:
    """± of the measured points about a value: the larger of its two neighbours."""
    below = [point for point in scale.points if point.value <= value][-1:]
    above = [point for point in scale.points if point.value >= value][:1]
    stated = [
        slider_point.plus_minus
        for slider_point in (*below, *above)
        if slider_point.plus_minus is not None
    ]
    return max(stated, default=None)


def depth_at(brief: Brief, distance_m: float) -> Depth | None:
    """What is sharp when focused there; None where the lens cannot be."""
    try:
        return depth_of_field(optics_of(brief), circle_mm(brief), distance_m)
    except OutOfRange:
        return None


def background_disc_mm(brief: Brief, distance_m: float) -> float | None:
    """Blur (mm on the sensor) of the background that was asked about; None where none was."""
    background_m = brief[FOCUS].background_m
    if background_m is None:
        return None
    try:
        return blur_disc_mm(optics_of(brief), distance_m, background_m)
    except OutOfRange:
        return None


def stack_distances_m(brief: Brief, near_m: float, far_m: float) -> tuple[float, ...]:
    """Distances (m) to focus at, one frame each, so that all from near to far is sharp in one."""
    optics = optics_of(brief)
    half = 1000 / hyperfocal_mm(optics, circle_mm(brief))
    first, last = 1 / near_m, 0.0 if math.isinf(far_m) else 1 / far_m
    if first - last <= 2 * half:
        return (2 / (first + last),)
    count = math.ceil((first - last) / (2 * half * OVERLAP))
    count = min(max(2, count), MOST_FRAMES)
    inside_first, inside_last = first - half * OVERLAP, last + half * OVERLAP
    step = (inside_first - inside_last) / (count - 1)
    return tuple(1 / (inside_first - place * step) for place in range(count))
