"""Lamps and night at Kettle Reach: varnish tins, the lantern evening, stars over the slip."""

from __future__ import annotations

import numpy as np

from oxlen.demo.paint import (
    HEIGHT,
    WIDTH,
    Light,
    boards,
    curve,
    disc,
    flat,
    glow,
    grid,
    noise,
    over,
    shade,
    shape,
    smooth,
    tint,
)
from oxlen.demo.scenes_day import TAR, hull_outline

PAPER, LAMP, NIGHT = tint(1.02, 1.0, 0.97), tint(1.9, 1.0, 0.28), tint(0.45, 0.95, 2.3)


def varnish_tins() -> Light:
    """Three tins of varnish for the yard shop on a white sweep in the lit box."""
    x, y = grid()
    sweep = 235 * (0.72 + 0.42 * smooth(y, 0.15, 0.9)) * (1 - 0.35 * ((x - 0.5) * 1.3) ** 2)
    picture = flat(sweep * (1 + 0.006 * noise(201, 60, 60, 3)), PAPER)
    picture = shade(picture, smooth(y, 0.60, 0.44) * smooth(y, 0.30, 0.44), 0.08)
    tins = (
        (0.27, 0.36, 0.76, 0.105, tint(0.45, 1.0, 1.25)),
        (0.73, 0.40, 0.77, 0.095, tint(2.3, 0.75, 0.4)),
        (0.50, 0.27, 0.83, 0.13, tint(1.5, 1.0, 0.35)),
    )
    for centre, top, bottom, half, colour in tins:
        picture = _tin(picture, centre, top, bottom, half, colour)
    return picture


def _tin(
    picture: Light, centre: float, top: float, bottom: float, half: float, label: np.ndarray
) -> Light:
    """A tin with a paper label, a bright rim and a handle, lit softly from above left."""
    x, y = grid()
    squash = 0.27
    shadow = disc(centre + 0.03, bottom + 0.005, half * 1.62, 0.09, squash)
    picture = shade(picture, shadow, 0.5)
    side = shape(
        [
            (centre - half, top),
            (centre + half, top),
            (centre + half, bottom),
            (centre - half, bottom),
        ]
    )
    radius = half * WIDTH / HEIGHT
    foot = disc(centre, bottom, radius, 0.003, squash)
    body = np.maximum(side, foot * (y > bottom - 0.01))
    across = np.clip((x - centre) / half, -1, 1)
    facing = np.sqrt(np.clip(1 - across**2, 0, 1))
    metal = (
        46
        + 120 * facing**2
        + 300 * np.exp(-(((across + 0.55) / 0.09) ** 2))
        + 120 * np.exp(-(((across - 0.72) / 0.05) ** 2))
    )
    picture = over(picture, body, flat(metal, tint(1.03, 1.0, 0.95)))
    bow = 0.035 * facing * squash / 0.27
    band = smooth(y - bow, top + 0.075, top + 0.078) * (
        1 - smooth(y - bow, bottom - 0.055, bottom - 0.052)
    )
    lit = (0.32 + 0.68 * facing) * (1 - 0.22 * across)
    picture = over(picture, band * side, flat(74 * lit, label))
    middle = (top + bottom) / 2
    for offset, size, level in ((-0.02, 0.62, 150), (0.052, 0.42, 130), (0.085, 0.30, 120)):
        line = (np.abs(y - bow - middle - offset) < (0.019 if offset < 0 else 0.006)) & (
            np.abs(across) < size
        )
        picture = over(picture, line.astype(np.float32) * side, flat(level * lit, PAPER))
    rim = disc(centre, top, radius, 0.003, squash)
    picture = over(picture, rim, flat(230, tint(1.03, 1.0, 0.96)))
    lid = disc(centre, top + 0.002, radius * 0.88, 0.003, squash)
    picture = over(
        picture, lid, flat(120 + 140 * glow(centre - 0.04, top - 0.02, 0.07), tint(1.03, 1.0, 0.96))
    )
    return over(
        picture,
        disc(centre, top + 0.003, radius * 0.52, 0.003, squash)
        * (1 - disc(centre, top + 0.003, radius * 0.48, 0.003, squash)),
        flat(70, PAPER),
    )


LANTERNS = (
    (0.10, 0.335),
    (0.235, 0.40),
    (0.375, 0.425),
    (0.52, 0.415),
    (0.665, 0.37),
    (0.80, 0.29),
    (0.925, 0.19),
)


def lantern_evening() -> Light:
    """A string of lanterns over the quay, the last blue in the sky, their light on the water."""
    x, y = grid()
    sky = 0.20 + 0.95 * smooth(y, 0.05, 0.50) ** 2
    picture = flat(sky * (1 + 0.08 * noise(301, 3, 6, 5)), NIGHT)
    far = shape(
        [
            (0, 0.485),
            *curve([(0, 0.475), (0.3, 0.465), (0.6, 0.478), (1, 0.46)]),
            (1, 0.53),
            (0, 0.53),
        ]
    )
    picture = over(picture, far, flat(0.06, tint(0.7, 1.0, 1.3)))
    picture = _lantern_water(picture)
    lit = sum(glow(lx, 0.80 + 0.05 * np.cos(9 * lx), 0.075) for lx, _ in LANTERNS)
    quay = shape([(0, 0.765), *curve([(0, 0.765), (0.5, 0.742), (1, 0.75)]), (1, 1), (0, 1)])
    lines = 0.55 + 0.45 * boards(0.5 + (x - 0.5) / (0.25 + 2.2 * (y - 0.6)), 26, 0.07)
    ground = (0.12 + 3.6 * lit) * lines * np.clip(1 + 0.3 * noise(311, 50, 30, 4), 0.2, 2)
    picture = over(picture, quay, flat(ground, tint(1.5, 1.0, 0.5)))
    picture = _bollards(picture)
    rope = curve([(-0.02, 0.23), *LANTERNS, (1.02, 0.10)], 30)
    band = [(px, py - 0.034) for px, py in rope] + [(px, py - 0.031) for px, py in reversed(rope)]
    picture = over(picture, shape(band), flat(0.35, TAR))
    for lx, ly in LANTERNS:
        picture = picture + flat(1.6 * glow(lx, ly, 0.028), LAMP)
        shell = disc(lx, ly, 0.027, 0.004, 1.25)
        core = 150 + 520 * np.exp(-(((y - ly - 0.006) / 0.016) ** 2) - (((x - lx) / 0.010) ** 2))
        picture = over(picture, shell, flat(core, LAMP))
        for cap in (ly - 0.034, ly + 0.033):
            lid = shape(
                [
                    (lx - 0.008, cap - 0.003),
                    (lx + 0.008, cap - 0.003),
                    (lx + 0.008, cap + 0.003),
                    (lx - 0.008, cap + 0.003),
                ]
            )
            picture = over(picture, lid, flat(1.5, TAR))
    return picture


def _lantern_water(picture: Light) -> Light:
    """The creek between bank and quay: sky above it mirrored, each lantern drawn out in ripples."""
    x, y = grid()
    ripple = noise(321, 10, 110, 5, 0.75)
    water = smooth(y, 0.525, 0.53)
    picture = over(picture, water, flat((0.50 - 0.45 * (y - 0.53)) * (1 + 0.4 * ripple), NIGHT))
    for index, (lx, ly) in enumerate(LANTERNS):
        sway = 0.010 * noise(331 + index, 2, 70, 4, 0.8)
        width = 0.012 + 0.05 * np.clip(y - 0.53, 0, 1)
        streak = np.exp(-(((x - lx - sway) / width) ** 2)) * smooth(y, 0.53, 0.56)
        picture = picture + flat(
            9.5 * streak * np.clip(0.45 + 0.9 * ripple, 0, 2) * (1.2 - ly), LAMP
        )
    boat = shape(hull_outline(0.56, 0.80, 0.56, 0.655))
    return over(picture, boat, flat(0.22 + 0.5 * smooth(y, 0.60, 0.56), TAR))


def _bollards(picture: Light) -> Light:
    """Two iron bollards on the quay, each catching the nearest lantern."""
    for cx, foot, tall in ((0.31, 0.90, 0.12), (0.76, 0.93, 0.14)):
        x, _ = grid()
        cast = [
            (cx - 0.02, foot),
            (cx + 0.02, foot),
            (cx + 0.06, foot + 0.06),
            (cx + 0.02, foot + 0.06),
        ]
        picture = shade(picture, shape(cast, 0.01), 0.6)
        post = shape(
            curve(
                [
                    (cx - 0.022, foot),
                    (cx - 0.017, foot - 0.6 * tall),
                    (cx - 0.027, foot - 0.8 * tall),
                    (cx - 0.018, foot - tall),
                    (cx + 0.018, foot - tall),
                    (cx + 0.027, foot - 0.8 * tall),
                    (cx + 0.017, foot - 0.6 * tall),
                    (cx + 0.022, foot),
                ]
            )
        )
        edge = np.exp(-(((x - cx + 0.012) / 0.006) ** 2))
        picture = over(picture, post, flat(0.25 + 3.5 * edge, tint(1.4, 1.0, 0.55)))
    return picture


def stars_over_slip() -> Light:
    """The winter sky over the slip, a mast and the shed roof against it, town glow low down."""
    x, y = grid()
    glow_low = 0.0016 * np.exp(-(1 - y / 0.8) * 6)
    band = np.exp(-(((x * 0.9 + y * 0.75 - 0.78) / 0.16) ** 2))
    milky = 0.00042 * band * np.clip(1 + 0.9 * noise(401, 6, 6, 6, 0.65), 0, 3)
    picture = flat(0.00055 + glow_low + milky, tint(0.85, 1.0, 1.25))
    picture = picture + _stars()
    shed = shape([(0.0, 0.70), (0.14, 0.575), (0.33, 0.705), (0.33, 1.0), (0.0, 1.0)])
    bank = shape(
        [(0, 0.80), *curve([(0, 0.80), (0.4, 0.79), (0.7, 0.815), (1, 0.785)]), (1, 1), (0, 1)]
    )
    hull = shape(hull_outline(0.44, 0.90, 0.735, 0.885))
    mast = shape([(0.640, 0.19), (0.645, 0.19), (0.651, 0.77), (0.640, 0.77)])
    stay = shape([(0.642, 0.20), (0.644, 0.20), (0.885, 0.745), (0.882, 0.745)])
    dark = np.maximum.reduce([shed, bank, hull, mast, stay])
    ground = 0.00016 * np.clip(1 + 0.5 * noise(411, 40, 30, 4), 0.2, 2)
    picture = over(picture, dark, flat(ground, tint(1.0, 1.0, 0.9)))
    window = shape([(0.10, 0.76), (0.15, 0.76), (0.15, 0.82), (0.10, 0.82)])
    picture = over(picture, window, flat(0.35, LAMP))
    return picture + flat(0.002 * glow(0.125, 0.80, 0.035) * dark, LAMP)


def _stars() -> Light:
    """Points of light, few bright and many faint, spread by the lens over a pixel or two."""
    generator = np.random.default_rng(421)
    picture = np.zeros((HEIGHT, WIDTH, 3), dtype=np.float32)
    count = 1700
    rows, columns = (
        generator.integers(2, HEIGHT - 2, count),
        generator.integers(2, WIDTH - 2, count),
    )
    brightness = 0.002 * generator.pareto(1.25, count) + 0.001
    warmth = generator.normal(0, 0.16, count)
    for row, column, light, warm in zip(
        rows, columns, np.minimum(brightness, 0.6), warmth, strict=True
    ):
        colour = tint(1 + warm, 1.0, 1.1 - warm)
        for dy, dx, share in ((0, 0, 1.0), (0, 1, 0.4), (1, 0, 0.4), (0, -1, 0.4), (-1, 0, 0.4)):
            picture[row + dy, column + dx] += light * share * colour
    return picture
