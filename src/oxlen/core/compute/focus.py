"""Registry entries of focus: depth, blur, clip-ons, slider and ladder."""

from __future__ import annotations

import math
from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.errors import BadInput
from oxlen.core.focus.close_up import close_up
from oxlen.core.focus.defocus import airy_um, blur_disc_mm
from oxlen.core.focus.depth import default_circle_mm, depth_of_field, hyperfocal_mm
from oxlen.core.focus.ladder import focus_peak
from oxlen.core.focus.optics import Optics
from oxlen.core.focus.slider import SliderPoint, SliderScale


def _circle(w: float, h: float) -> dict[str, Any]:
    return {"c": default_circle_mm(w, h)}


def _hyperfocal(f: float, N: float, c: float) -> dict[str, Any]:
    return {"H": hyperfocal_mm(Optics(f, N), c)}


def _depth(*, f: float, N: float, c: float, s: float) -> dict[str, Any]:
    found = depth_of_field(Optics(f, N), c, s / 1000)
    return {"near": 1000 * found.near_m, "far": 1000 * found.far_m}


def _disc(*, f: float, N: float, s1: float, s2: float) -> dict[str, Any]:
    return {"disc": blur_disc_mm(Optics(f, N), s1 / 1000, s2 / 1000)}


def _airy(N: float) -> dict[str, Any]:
    return {"airy_um": airy_um(N)}


def _close_up(*, f: float, s: float | None, P: float, w: float) -> dict[str, Any]:
    found = close_up(Optics(f, 1.0, P), math.inf if s is None else s, w)
    sizes = {"m": found.magnification, "field_width": found.field_mm}
    return {"s_new": found.distance_m, "v": found.image_mm} | sizes


def _peak(slider: list[float], sharpness: list[float]) -> dict[str, Any]:
    found = focus_peak(slider, sharpness)
    if found is None:
        return {"peak": None, "ln_peak": None}
    return {"peak": found.value, "ln_peak": found.ln_height}


def _slider(pairs: list[list[float | None]], at: list[float]) -> dict[str, Any]:
    points = []
    for pair in pairs:
        if len(pair) != 2 or pair[0] is None:
            raise BadInput("Each pair is [slider, distance in m], null for infinity.", "pairs")
        points.append(SliderPoint(pair[0], math.inf if pair[1] is None else pair[1]))
    dioptres = SliderScale(tuple(points)).dioptres_at(at)
    return {
        "dioptres": list(dioptres),
        "distance": [1 / dioptre if dioptre > 0 else None for dioptre in dioptres],
    }


FOCUS: tuple[Computation, ...] = (
    Computation(
        "default_coc",
        "Circle of confusion",
        "c = √(w² + h²)/1500",
        source="Ray 2002",
        inputs={"w": "mm", "h": "mm"},
        outputs={"c": "mm"},
        work=_circle,
    ),
    Computation(
        "hyperfocal",
        "Hyperfocal distance",
        "H = f²/(N·c) + f",
        source="Ray 2002",
        inputs={"f": "mm", "N": "f-number", "c": "mm"},
        outputs={"H": "mm"},
        work=_hyperfocal,
    ),
    Computation(
        "dof",
        "Depth of field",
        "near = s(H − f)/(H + s − 2f); far = s(H − f)/(H − s), infinite when s ≥ H",
        source="Ray 2002",
        inputs={"f": "mm", "N": "f-number", "c": "mm", "s": "mm"},
        outputs={"near": "mm", "far": "mm or null"},
        work=_depth,
    ),
    Computation(
        "blur_disc",
        "Blur of a point out of focus",
        "(f/N)·|s2 − s1|/s2·f/(s1 − f)",
        source="Ray 2002",
        inputs={"f": "mm", "N": "f-number", "s1": "mm (focus)", "s2": "mm (point)"},
        outputs={"disc": "mm"},
        work=_disc,
    ),
    Computation(
        "airy",
        "Airy disc",
        "2.44·0.55 µm·N",
        source="Ray 2002",
        inputs={"N": "f-number"},
        outputs={"airy_um": "um"},
        work=_airy,
    ),
    Computation(
        "closeup",
        "Through a clip-on lens",
        "1/s' = 1/s + P; v = f·s/(s − f); m = v/s'; field = sensor width/m",
        source="Ray 2002",
        inputs={"f": "mm", "s": "number or null: m", "P": "dioptres", "w": "mm (sensor width)"},
        outputs={"s_new": "m", "v": "mm", "m": "ratio", "field_width": "mm"},
        work=_close_up,
    ),
    Computation(
        "focus_peak",
        "Top of a focus ladder",
        "parabola through (slider, ln sharpness) of the sharpest sample and its neighbours",
        source="Pertuz 2013",
        inputs={"slider": "list, ascending", "sharpness": "list"},
        outputs={"peak": "slider", "ln_peak": "ln"},
        work=_peak,
    ),
    Computation(
        "pchip_slider",
        "A focus slider between measured points",
        "monotone cubics (PCHIP) through (slider, 1/distance)",
        source="Fritsch and Butland 1984",
        inputs={"pairs": "pairs or null: [[slider, m], ...]", "at": "list"},
        outputs={"dioptres": "list", "distance": "list of m"},
        work=_slider,
    ),
)
