"""Trails of stars measured off frames of the bench, middle and corners, against the formula."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bench.harness.measure import Figure, Figures
from bench.nights import LENS, LUMA_F, MODE
from oxlen.core.frames.star_shapes import star_shapes
from oxlen.core.frames.trail_field import trail_field
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.night_sky import NightSky, under_night
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import FAR_M, Floats, Scene, StarField
from oxlen.core.simulate.scene import Star as CatalogStar
from oxlen.core.sky.trailing import Star, projected_trail_px, star_trail_px
from oxlen.formats.scene_file import shipped_scene

SHUTTERS_ISO = ((10.0, 1600.0), (30.0, 1600.0), (60.0, 400.0), (120.0, 200.0))
DECLINATIONS_DEG = (-60.0, -17.0, 0.0, 45.0)
FRAMES, STARS, SPREAD_DEG = 8, 900, 75.0
MOST_OFF_PX, MOST_OFF_SHARE = 0.5, 0.05
MAGNITUDE = 21.0


def figures() -> Figures:
    """What is measured."""
    offs = [
        _off(declination, shutter_s, iso)
        for declination in DECLINATIONS_DEG
        for shutter_s, iso in SHUTTERS_ISO
    ]
    for at, name in enumerate(("middle", "corner")):
        worst = max(off[at] for off in offs)
        yield Figure(f"trails/{name}-off-of-allowed", worst)


def _off(declination_deg: float, shutter_s: float, iso: float) -> tuple[float, float]:
    """How far what frames tell is off what the formulas say, as shares of what is allowed."""
    scene = _under_stars(declination_deg)
    # One moment shot several times: trails of half a pixel drown in the grain of one frame.
    frames = [_frame(scene, shutter_s, iso, seed=at) for at in range(FRAMES)]
    field = trail_field(
        star_shapes(np.asarray(np.mean(frames, axis=0), dtype=np.float32)),
        (scene.width_px, scene.height_px),
        focal_px=scene.pixels_per_radian,
    )
    seen = (0.0, 0.0) if field is None else (field.middle_px, field.corner_px)
    focal_mm = scene.pixels_per_radian / 1000
    reported = (
        float(star_trail_px(focal_mm, 1.0, shutter_s, declination_deg=declination_deg)),
        _corner_px(scene, declination_deg, shutter_s),
    )
    words = [f"{a:.2f} px for {b:.2f}" for a, b in zip(seen, reported, strict=True)]
    print(f"      declination {declination_deg:.0f}°, {shutter_s:g} s: {', '.join(words)}")
    middle, corner = (
        abs(found - wanted) / max(MOST_OFF_PX, MOST_OFF_SHARE * wanted)
        for found, wanted in zip(seen, reported, strict=True)
    )
    return middle, corner


def _corner_px(scene: Scene, declination_deg: float, shutter_s: float) -> float:
    """Longest trail of the corners by the projected form."""
    axis = np.radians(declination_deg)
    half = np.array([scene.width_px, scene.height_px]) / 2 / scene.pixels_per_radian
    found = []
    for x, y in half * np.array([[-1, -1], [-1, 1], [1, -1], [1, 1]]):
        ahead, up = np.cos(axis) - y * np.sin(axis), np.sin(axis) + y * np.cos(axis)
        star = Star(
            float(np.degrees(np.arctan2(x, ahead))),
            float(np.degrees(np.arctan2(up, np.hypot(x, ahead)))),
        )
        trail = projected_trail_px(
            scene.pixels_per_radian / 1000, 1.0, shutter_s, axis_dec_deg=declination_deg, star=star
        )
        found.append(float(trail))
    return max(found)


def _under_stars(declination_deg: float) -> Scene:
    """The slip under seeded stars about a declination, as many and as bright as there are."""
    scene = under_night(shipped_scene("stars-over-slip"), NightSky(MAGNITUDE))
    draw = np.random.default_rng(round(1000 + declination_deg))
    # Evenly over the sphere about the axis, brighter ones ever fewer: ten times for 2 magnitudes.
    spread = np.radians(SPREAD_DEG)
    away = np.arccos(1 - draw.random(STARS) * (1 - np.cos(spread)))
    turned, magnitudes = draw.uniform(0, 2 * np.pi, STARS), 5.5 + 2 * np.log10(draw.random(STARS))
    axis = np.radians(declination_deg)
    north = np.cos(away) * np.sin(axis) + np.sin(away) * np.cos(axis) * np.cos(turned)
    east = np.sin(away) * np.sin(turned)
    ahead = np.cos(away) * np.cos(axis) - np.sin(away) * np.sin(axis) * np.cos(turned)
    stars = tuple(
        CatalogStar(float(ra), float(dec), magnitude=float(magnitude), colour_index=0.5)
        for ra, dec, magnitude in zip(
            np.degrees(np.arctan2(east, ahead)) % 360,
            np.degrees(np.arcsin(north)),
            magnitudes,
            strict=True,
        )
    )
    return replace(scene, star_field=StarField(0.0, declination_deg, 0.0, stars=stars))


def _frame(scene: Scene, shutter_s: float, iso: float, *, seed: int) -> Floats:
    settings = CaptureSettings(iso, shutter_s, FAR_M, support="tripod")
    taken = capture(scene, LENS, MODE, settings=settings, random=SeededRandom(9000 + seed))
    return np.asarray(demosaiced(taken.raw) @ LUMA_F, dtype=np.float32)
