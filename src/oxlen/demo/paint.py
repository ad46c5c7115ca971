"""Painting in light: textures, shapes and shading on arrays of luminance in cd/m²."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

Light = NDArray[np.floating]
"""Scene light, shape (h, w, 3): linear sRGB primaries scaled so that Y is luminance in cd/m²."""
Mask = NDArray[np.floating]
"""How much of each pixel a shape covers, shape (h, w), 0 to 1."""

HEIGHT, WIDTH = 1080, 1440
SUPERSAMPLE = 2


def grid() -> tuple[Mask, Mask]:
    """x and y of every pixel as shares of width and height."""
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)
    return (x + 0.5) / WIDTH, (y + 0.5) / HEIGHT


def tint(red: float, green: float, blue: float) -> NDArray[np.float32]:
    """A colour with luminance 1, so that multiplying by cd/m² gives light."""
    colour = np.array([red, green, blue], dtype=np.float32)
    return colour / float(colour @ np.array([0.2126, 0.7152, 0.0722], dtype=np.float32))


def flat(luminance: Mask | float, colour: NDArray[np.float32]) -> Light:
    """Light of one colour, its luminance per pixel or everywhere the same."""
    level = np.broadcast_to(np.asarray(luminance, dtype=np.float32), (HEIGHT, WIDTH))
    return np.asarray(level[..., None] * colour, dtype=np.float32)


def noise(seed: int, columns: int, rows: int, octaves: int = 5, gain: float = 0.55) -> Mask:
    """Smooth fractal noise about 0, roughly −1 to 1; more rows than columns stretches it."""
    generator = np.random.default_rng(seed)
    total = np.zeros((HEIGHT, WIDTH), dtype=np.float32)
    weight, norm = 1.0, 0.0
    for octave in range(octaves):
        size = (max(2, columns << octave), max(2, rows << octave))
        small = generator.normal(size=(min(size[1], HEIGHT), min(size[0], WIDTH)))
        picture = Image.fromarray(small.astype(np.float32))
        total += weight * np.asarray(picture.resize((WIDTH, HEIGHT), Image.Resampling.BICUBIC))
        norm += weight**2
        weight *= gain
    return np.asarray(total / (2.2 * np.sqrt(norm)), dtype=np.float32)


def shape(points: Sequence[tuple[float, float]], blur: float = 0.0) -> Mask:
    """A polygon in shares of width and height; `blur` softens it by that share of the height."""
    big = Image.new("L", (WIDTH * SUPERSAMPLE, HEIGHT * SUPERSAMPLE))
    scaled = [(x * big.width, y * big.height) for x, y in points]
    ImageDraw.Draw(big).polygon(scaled, fill=255)
    small = big.resize((WIDTH, HEIGHT), Image.Resampling.BOX)
    if blur:
        small = small.filter(ImageFilter.GaussianBlur(blur * HEIGHT))
    return np.asarray(small, dtype=np.float32) / 255


def disc(cx: float, cy: float, radius: float, softness: float = 0.002, squash: float = 1.0) -> Mask:
    """A disc: centre in shares, radius as a share of the height, `squash` flattening it."""
    x, y = grid()
    distance = np.hypot((x - cx) * WIDTH / HEIGHT, (y - cy) / squash)
    return np.asarray(np.clip((radius - distance) / softness + 0.5, 0, 1), dtype=np.float32)


def glow(cx: float, cy: float, reach: float) -> Mask:
    """Light falling off from a point: 1 at it, by the inverse square beyond `reach`."""
    x, y = grid()
    distance2 = ((x - cx) * WIDTH / HEIGHT) ** 2 + (y - cy) ** 2
    return np.asarray(1 / (1 + distance2 / reach**2), dtype=np.float32)


def over(picture: Light, mask: Mask, light: Light) -> Light:
    """Lay light over a picture where a mask covers it."""
    return np.asarray(picture + mask[..., None] * (light - picture))


def shade(picture: Light, mask: Mask, depth: float) -> Light:
    """Darken a picture under a mask by a share."""
    return np.asarray(picture * (1 - depth * mask[..., None]))


def smooth(value: Mask, start: float, end: float) -> Mask:
    """0 before `start`, 1 past `end`, eased between."""
    t = np.clip((value - start) / (end - start), 0, 1)
    return np.asarray(t * t * (3 - 2 * t), dtype=np.float32)


def boards(value: Mask, count: int, gap: float = 0.05) -> Mask:
    """Planking along a coordinate 0..1: 1 on a board, falling to 0 in the gap between two."""
    phase = np.mod(value * count, 1.0)
    edge = np.minimum(phase, 1 - phase)
    return np.asarray(np.clip(edge / gap, 0, 1), dtype=np.float32)


def curve(points: Sequence[tuple[float, float]], samples: int = 24) -> list[tuple[float, float]]:
    """A smooth open curve through points (Catmull-Rom), as a list of points."""
    p = np.asarray([points[0], *points, points[-1]], dtype=float)
    t = np.linspace(0, 1, samples, endpoint=False)[:, None]
    found: list[tuple[float, float]] = []
    for a, b, c, d in zip(p, p[1:], p[2:], p[3:], strict=False):
        cubic = 0.5 * (
            2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2 + (3 * (b - c) + d - a) * t**3
        )
        found += [(float(x), float(y)) for x, y in cubic]
    return [*found, (float(points[-1][0]), float(points[-1][1]))]
