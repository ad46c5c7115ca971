"""Registry entries of stacked frames and of drawing with a lamp."""

from __future__ import annotations

from typing import Any

import numpy as np

from oxlen.core.compute.computation import Computation
from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import Combine, combined
from oxlen.core.motion import drawing

VECTOR_RULES: tuple[Combine, ...] = ("add", "mean", "lighten", "darken", "median")


def _combined(frames: list[list[float]]) -> dict[str, Any]:
    if len({len(frame) for frame in frames}) > 1:
        raise BadInput("All frames must have as many pixels.", "frames")
    light = np.asarray(frames, dtype=float)
    return {how: combined(light, how).tolist() for how in VECTOR_RULES}


def _background(*, ev100_ambient: float, N: float, t: float, iso: float) -> dict[str, Any]:
    level = drawing.background_stops(ev100_ambient, N, t, iso=iso)
    return {"background_stops": level, "black": bool(level <= drawing.SHOWS_STOPS)}


def _trail(*, Ls: float, iso: float, N: float, d: float, u: float) -> dict[str, Any]:
    dwell_s = drawing.dwell_s(d, u)
    return {"dwell": dwell_s, "trail_stops": drawing.trail_stops(Ls, iso, N, dwell_s=dwell_s)}


def _time(*, path: float, speed: float, start: float, stop: float) -> dict[str, Any]:
    return {"time": drawing.drawing_time_s(path, speed, start, stop_s=stop)}


LONG_TIME: tuple[Computation, ...] = (
    Computation(
        "combine_modes",
        "Frames stacked by each rule",
        "add = min(1, sum); mean; lighten = max; darken = min; median",
        source="by definition, in linear light with white = 1",
        inputs={"frames": "pairs of pixels, a list for each frame"},
        outputs=dict.fromkeys(VECTOR_RULES, "list"),
        work=_combined,
    ),
    Computation(
        "lamp_background_stops",
        "Where the ground of a lamp drawing lands",
        "background = EV100_ambient − EV100(N, t, S); black from −5 down",
        source="ISO 2720",
        inputs={"ev100_ambient": "EV100", "N": "f-number", "t": "s", "iso": "ISO"},
        outputs={"background_stops": "stops from mid", "black": "bool"},
        work=_background,
    ),
    Computation(
        "lamp_trail_stops",
        "How bright a lamp draws its trail",
        "dwell = d/u; trail = log2(Ls·S·dwell/(12.5·N²))",
        source="ISO 2720",
        inputs={"Ls": "cd/m2", "iso": "ISO", "N": "f-number", "d": "mm", "u": "mm/s"},
        outputs={"dwell": "s", "trail_stops": "stops from mid"},
        work=_trail,
    ),
    Computation(
        "drawing_time",
        "How long a drawing takes",
        "time = path/speed + start + stop",
        source="path over speed",
        inputs={"path": "m", "speed": "m/s", "start": "s", "stop": "s"},
        outputs={"time": "s"},
        work=_time,
    ),
)
