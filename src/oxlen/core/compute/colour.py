"""Registry entries of the colour of light."""

from __future__ import annotations

from typing import Any

import numpy as np

from oxlen.core.colour.daylight import daylight_xy
from oxlen.core.colour.mixing import Lit, mixture
from oxlen.core.colour.patch import patch_cast, patch_light
from oxlen.core.colour.temperature import mired, picture_warmth_mired, temperature_of
from oxlen.core.compute.computation import Computation
from oxlen.core.errors import BadInput
from oxlen.core.light.tone import srgb_to_linear
from oxlen.core.units import require_between

XY = {"x": "CIE 1931", "y": "CIE 1931"}


def _temperature(x: float, y: float) -> dict[str, Any]:
    found = temperature_of(x, y)
    return {"cct": found.cct_k, "duv": found.duv}


def _mired(K: float) -> dict[str, Any]:
    return {"mired": mired(K)}


def _warmth(K_light: float, K_dial: float) -> dict[str, Any]:
    return {"warmth": picture_warmth_mired(K_light, K_dial)}


def _daylight(K: float) -> dict[str, Any]:
    x, y = daylight_xy(K)
    return {"x": x, "y": y}


def _mixed(lamps: list[list[float]]) -> dict[str, Any]:
    if any(len(lamp) != 3 for lamp in lamps):
        raise BadInput("Each lamp is [x, y, lx].", "lamps")
    found = mixture([Lit(*lamp) for lamp in lamps])
    whole = found.temperature
    spread = {"spread_mired": found.spread_mired}
    return {"x": found.x, "y": found.y, "cct": whole.cct_k, "duv": whole.duv} | spread


def _linear(codes: tuple[float, float, float]) -> Any:
    for code in codes:
        require_between("r, g, b", code, low=0, high=255)
    linear = np.asarray(srgb_to_linear(np.array(codes) / 255))
    if not np.all(linear > 0):
        raise BadInput("A patch without one of the colours is no neutral.", "r, g, b")
    return linear


def _cast(*, r: float, g: float, b: float, dial: float) -> dict[str, Any]:
    found = patch_cast(_linear((r, g, b)), dial)
    light = {"cast_mired": found.cast_mired, "light_K": found.light_k}
    own = found.temperature
    return {"x": found.x, "y": found.y, "cct": own.cct_k, "duv": own.duv} | light


def _light(*, r: float, g: float, b: float, dial: float) -> dict[str, Any]:
    found = patch_light(_linear((r, g, b)), dial)
    own = found.temperature
    where = {"light_x": found.x, "light_y": found.y}
    return where | {"light_K": own.cct_k, "light_duv": own.duv}


PATCH = {"r": "0..255", "g": "0..255", "b": "0..255", "dial": "K"}

COLOUR: tuple[Computation, ...] = (
    Computation(
        "cct_duv_from_xy",
        "Colour temperature of a light",
        "nearest black body in CIE 1960 uv, and the distance to it (+ greenish)",
        source="Ohno 2013",
        inputs=XY,
        outputs={"cct": "K", "duv": "-"},
        work=_temperature,
    ),
    Computation(
        "mired",
        "Reciprocal colour temperature",
        "mired = 10⁶/K",
        source="by definition",
        inputs={"K": "K"},
        outputs={"mired": "mired"},
        work=_mired,
    ),
    Computation(
        "picture_warmth",
        "How warm a dial makes the picture",
        "10⁶/K_light − 10⁶/K_dial, positive = warm",
        source="by definition",
        inputs={"K_light": "K", "K_dial": "K"},
        outputs={"warmth": "mired"},
        work=_warmth,
    ),
    Computation(
        "daylight_xy",
        "Colour of daylight",
        "x cubic in 1/T, y = −3x² + 2.870x − 0.275",
        source="CIE 015",
        inputs={"K": "K"},
        outputs=XY,
        work=_daylight,
    ),
    Computation(
        "mixed_lamps",
        "Several lamps together",
        "XYZ added by illuminance; spread = |10⁶/CCT1 − 10⁶/CCT2|",
        source="CIE 015, Ohno 2013",
        inputs={"lamps": "pairs [[x, y, lx], ...]"},
        outputs=XY | {"cct": "K", "duv": "-", "spread_mired": "mired"},
        work=_mixed,
    ),
    Computation(
        "grey_patch_cast",
        "Cast of a neutral patch",
        "cast = 10⁶/CCT(patch) − 10⁶/CCT(r = g = b); light = 10⁶/(10⁶/dial + cast)",
        source="IEC 61966-2-1, Ohno 2013",
        inputs=PATCH,
        outputs=XY | {"cct": "K", "duv": "-", "cast_mired": "mired", "light_K": "K"},
        work=_cast,
    ),
    Computation(
        "grey_patch_light_bradford",
        "The light on a neutral patch",
        "the patch's XYZ adapted from the picture's white back to the dial's, by Bradford",
        source="Lam 1985, Ohno 2013",
        inputs=PATCH,
        outputs={"light_x": "CIE 1931", "light_y": "CIE 1931", "light_K": "K", "light_duv": "-"},
        work=_light,
    ),
)
