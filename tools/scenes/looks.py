"""What things are made of: reflectances, grain, rust and foam as textures, gloss, metal, water."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Look = dict[str, Any]
Picture = NDArray[np.float32]


def _noise(
    seed: int, size: tuple[int, int], scale: tuple[float, float], *, octaves: int = 5
) -> Picture:
    """Smooth noise, about −1 to 1, stretched by `scale` cells across and down."""
    from scipy.ndimage import zoom

    draw = np.random.default_rng(seed)
    total, weight, norm = np.zeros(size), 1.0, 0.0
    for octave in range(octaves):
        cells = [min(side, max(2, int(s * 2**octave))) for side, s in zip(size, scale, strict=True)]
        # Wrapped before it is stretched, so that a repeated texture shows no seam.
        padded = np.pad(draw.normal(size=cells), 3, mode="wrap")
        grow = [side / c for side, c in zip(size, cells, strict=True)]
        big = zoom(padded, grow, order=3)
        top, left = (round(3 * g) for g in grow)
        part = big[top : top + size[0], left : left + size[1]]
        total[: part.shape[0], : part.shape[1]] += weight * part
        norm += weight**2
        weight *= 0.55
    return np.asarray(total / (2 * np.sqrt(norm)), dtype=np.float32)


def texture(picture: Picture, *, tile: tuple[float, float] = (1, 1)) -> Look:
    """A texture of linear reflectances (h, w, 3), repeated."""
    import mitsuba as mi

    bitmap = mi.Bitmap(np.clip(picture, 0.004, 0.92).astype(np.float32))
    return {
        "type": "bitmap",
        "bitmap": bitmap,
        "raw": True,
        "to_uv": mi.ScalarTransform4f().scale([tile[0], tile[1], 1]),
    }


def colour(red: float, green: float, blue: float) -> Look:
    """A plain reflectance in linear sRGB."""
    return {"type": "rgb", "value": [red, green, blue]}


def wood(
    base: tuple[float, float, float],
    seed: int,
    *,
    grain: float = 0.35,
    tile: tuple[float, float] = (1, 1),
) -> Look:
    """Wood with its grain along the second texture axis."""
    size = (1024, 512)
    lines = _noise(seed, size, (2, 40), octaves=4) + 0.5 * _noise(
        seed + 1, size, (1.5, 90), octaves=3
    )
    patches = _noise(seed + 2, size, (3, 3), octaves=3)
    knots = np.zeros(size)
    draw = np.random.default_rng(seed + 3)
    y, x = np.mgrid[0 : size[0], 0 : size[1]]
    for _ in range(4):
        cy, cx = draw.uniform(0, size[0]), draw.uniform(0, size[1])
        r2 = ((y - cy) / 26) ** 2 + ((x - cx) / 9) ** 2
        knots -= 1.3 * np.exp(-r2)
    level = np.exp(grain * (lines + 0.6 * patches + knots))
    tinted = (
        level[..., None]
        * np.array(base)
        * np.stack([1 + 0 * lines, 1 - 0.04 * lines, 1 - 0.09 * lines], -1)
    )
    return texture(tinted.astype(np.float32), tile=tile)


def mottled(
    base: tuple[float, float, float],
    other: tuple[float, float, float],
    seed: int,
    *,
    cells: float = 12,
    contrast: float = 0.5,
    tile: tuple[float, float] = (1, 1),
) -> Look:
    """Ground, rust, plaster: two colours mixed by noise, with fine grain over them."""
    size = (1024, 1024)
    mix = np.clip(0.5 + contrast * _noise(seed, size, (cells, cells), octaves=6), 0, 1)[..., None]
    grain = np.exp(0.25 * _noise(seed + 1, size, (cells * 16, cells * 16), octaves=2))[..., None]
    both = (1 - mix) * np.array(base) + mix * np.array(other)
    return texture((both * grain).astype(np.float32), tile=tile)


def matt(reflectance: Look) -> Look:
    """A matt surface seen from both sides."""
    return {"type": "twosided", "bsdf": {"type": "diffuse", "reflectance": reflectance}}


def painted(reflectance: Look, gloss: float = 0.25) -> Look:
    """Paint or varnish: colour under a coat; `gloss` is its roughness, small = mirror-like."""
    coat = {
        "type": "roughplastic",
        "diffuse_reflectance": reflectance,
        "alpha": gloss,
        "nonlinear": True,
    }
    return {"type": "twosided", "bsdf": coat}


def metal(eta: tuple[float, ...], k: tuple[float, ...], roughness: float) -> Look:
    """A bare metal by its complex index in red, green and blue."""
    conductor = {
        "type": "roughconductor",
        "eta": {"type": "rgb", "value": list(eta)},
        "k": {"type": "rgb", "value": list(k)},
        "alpha": roughness,
        "distribution": "ggx",
    }
    return {"type": "twosided", "bsdf": conductor}


def bronze(roughness: float = 0.18) -> Look:
    """Bronze, by the complex index of copper and tin alloys (Palik, rounded)."""
    return metal((0.85, 0.95, 1.18), (3.6, 2.55, 2.05), roughness)


def steel(roughness: float = 0.25) -> Look:
    """Tinned steel, by the complex index of iron (Palik, rounded)."""
    return metal((2.9, 2.9, 2.6), (3.1, 2.9, 2.8), roughness)


def water(roughness: float = 0.03) -> Look:
    """The surface of water; what is under it is a dark bed of its own."""
    return {
        "type": "roughdielectric",
        "int_ior": 1.333,
        "ext_ior": 1.0,
        "alpha": roughness,
        "distribution": "ggx",
    }


def cloth(red: float, green: float, blue: float, *, through: float = 0.35) -> Look:
    """Sailcloth or lantern paper: part of the light comes through."""
    return {
        "type": "blendbsdf",
        "weight": through,
        "a": {
            "type": "twosided",
            "bsdf": {"type": "diffuse", "reflectance": colour(red, green, blue)},
        },
        "b": {
            "type": "difftrans" if False else "twosided",
            "bsdf": {"type": "diffuse", "reflectance": colour(red, green, blue)},
        },
    }


def label(base: tuple[float, float, float], band: tuple[float, float, float], seed: int) -> Look:
    """A tin's paper label: a background, a band, a round mark and lines without words."""
    size = (512, 2048)
    paper = np.empty((*size, 3), np.float32)
    paper[:] = base
    y, x = np.mgrid[0 : size[0], 0 : size[1]].astype(np.float32)
    paper[(y > 60) & (y < 92)] = band
    paper[(y > 430) & (y < 446)] = band
    draw = np.random.default_rng(seed)
    for panel in range(2):
        cx = 512 + panel * 1024
        ring = np.hypot(x - cx, y - 215)
        paper[(ring < 96) & (ring > 84)] = band
        paper[ring < 70] = np.array(band) * 0.9
        hull_line = (np.abs(x - cx) < 52) & (y > 218) & (y < 246 - (np.abs(x - cx) / 52) ** 2 * 22)
        mast = (np.abs(x - cx) < 3) & (y > 158) & (y < 222)
        sail_part = (x > cx + 6) & (y > 164) & (y < 214) & (x - cx < 6 + (y - 164) * 0.8)
        paper[hull_line | mast | sail_part] = base
        for line in range(3):
            at, left = 336 + line * 30, cx - 130 + 26 * line
            while left < cx + 130 - 26 * line:
                width = draw.uniform(10, 44)
                paper[int(at) : int(at) + 12, int(left) : int(left + width)] = band
                left += width + 12
    speckle = 1 + 0.02 * draw.normal(size=(*size, 1))
    return texture(np.asarray(paper * speckle, np.float32)[::-1])
