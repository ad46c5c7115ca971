"""Where light comes from: sun and sky, cloud, panels, lanterns. Units are fixed when rendered."""

from __future__ import annotations

from typing import Any

import numpy as np

Emitter = dict[str, Any]


def sun_and_sky(elevation_deg: float, azimuth_deg: float, turbidity: float = 4.0) -> Emitter:
    """A clear or hazy day; azimuth from +y (ahead) towards +x (right)."""
    e, a = np.radians(elevation_deg), np.radians(azimuth_deg)
    # The renderer's sky has y up: turn it so that z is.
    towards = [float(np.cos(e) * np.sin(a)), float(np.cos(e) * np.cos(a)), float(np.sin(e))]
    import mitsuba as mi

    return {
        "type": "sunsky",
        "sun_direction": towards,
        "turbidity": turbidity,
        "albedo": {"type": "rgb", "value": [0.15, 0.14, 0.12]},
        "to_world": mi.ScalarTransform4f(),
        "sun_scale": 1.0,
    }


def cloud(
    seed: int, tint: tuple[float, float, float] = (0.96, 1.0, 1.06), contrast: float = 0.4
) -> Emitter:
    """A closed sky of cloud: brighter overhead as (1 + 2 sin h)/3, with banks in it. [CIE S 011]"""
    from tools.scenes.looks import _noise

    height, width = 512, 1024
    elevation = np.pi / 2 - (np.arange(height) + 0.5) / height * np.pi
    shade = np.where(elevation > 0, (1 + 2 * np.sin(np.maximum(elevation, 0))) / 3, 0.16)
    banks = _round(_noise(seed, (height, width), (7, 5), 6))
    stretched = banks * np.clip(np.sin(np.maximum(elevation, 0)) * 3, 0, 1)[:, None]
    level = shade[:, None] * np.exp(contrast * stretched)
    return dome(level[..., None] * np.array(tint))


def _round(banks: np.ndarray) -> np.ndarray:
    """A pattern (h, w) that goes round without a seam: crossed with itself turned half about."""
    width = banks.shape[1]
    share = 0.5 - 0.5 * np.cos(2 * np.pi * (np.arange(width) + 0.5) / width)
    crossed = share * banks + (1 - share) * np.roll(banks, width // 2, axis=1)
    return np.asarray(crossed / np.sqrt(share**2 + (1 - share) ** 2))


def dusk(
    low: tuple[float, float, float], high: tuple[float, float, float], glow_azimuth_deg: float
) -> Emitter:
    """The sky after sunset: a band of glow on one side under a deep dome."""
    height, width = 256, 512
    elevation = np.pi / 2 - (np.arange(height) + 0.5) / height * np.pi
    azimuth = (np.arange(width) + 0.5) / width * 2 * np.pi
    up = np.clip(elevation, 0, None)[:, None]
    towards = 0.5 + 0.5 * np.cos(azimuth - np.radians(glow_azimuth_deg))[None, :]
    band = np.exp(-up / 0.22) * (0.25 + 0.75 * towards**2)
    level = (
        np.array(high) * (0.55 + 0.45 * np.exp(-up / 0.9))[..., None]
        + np.array(low) * band[..., None]
    )
    return dome(np.where(elevation[:, None, None] > -0.02, level, level * 0.05))


def dome(picture: np.ndarray) -> Emitter:
    """A picture wrapped round the scene, top row overhead, z up."""
    import mitsuba as mi

    # The renderer's own dome has y up and looks along −z.
    upright = mi.ScalarTransform4f().rotate([1, 0, 0], 90)
    return {"type": "envmap", "bitmap": mi.Bitmap(picture.astype(np.float32)), "to_world": upright}


def panel(
    centre: tuple[float, float, float],
    target: tuple[float, float, float],
    size: tuple[float, float],
    *,
    radiance: tuple[float, float, float],
) -> dict[str, Any]:
    """A flat lamp facing a point; radiance in cd/m² by linear sRGB channel."""
    import mitsuba as mi

    place = mi.ScalarTransform4f().look_at(
        origin=list(centre), target=list(target), up=[0.01, 0.02, 1]
    )
    return {
        "type": "rectangle",
        "to_world": place.scale([size[0] / 2, size[1] / 2, 1]),
        "emitter": {"type": "area", "radiance": {"type": "rgb", "value": list(radiance)}},
        "bsdf": {"type": "diffuse", "reflectance": {"type": "rgb", "value": [0.5, 0.5, 0.5]}},
    }


def kelvin_rgb(kelvin: float, luminance: float) -> tuple[float, float, float]:
    """Linear sRGB of a black body (or daylight above 5000 K) scaled to a luminance in cd/m²."""
    k = kelvin
    if k < 5000:  # Kim 2002 fit of the Planckian locus
        x = -0.2661239e9 / k**3 - 0.2343589e6 / k**2 + 0.8776956e3 / k + 0.179910
        y = -0.9549476 * x**3 - 1.37418593 * x**2 + 2.09137015 * x - 0.16748867
    else:  # CIE 015 daylight
        x = -4.6070e9 / k**3 + 2.9678e6 / k**2 + 0.09911e3 / k + 0.244063
        y = -3.0 * x**2 + 2.87 * x - 0.275
    xyz = np.array([x / y, 1.0, (1 - x - y) / y])
    matrix = np.array(
        [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
    )
    rgb = np.maximum(matrix @ xyz, 0.01)
    rgb = rgb / float(rgb @ np.array([0.2126, 0.7152, 0.0722])) * luminance
    return float(rgb[0]), float(rgb[1]), float(rgb[2])
