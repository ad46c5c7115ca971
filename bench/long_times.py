"""Long times planned by Oxlen and carried out on the bench: stacked frames, lamp drawings."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import cv2
import numpy as np

from bench.harness.measure import Figure, Figures
from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    LENS_FILTERS,
    LOOKS,
    OUTPUT,
    SUPPORT,
    Output,
)
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.sequence.ask import FRAMES, Frames
from oxlen.core.drawing.plan import COLOUR_SPARE_STOPS, DrawingPlan, drawing_plan
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.light.tone import LUMA
from oxlen.core.long_exposure.way import Way
from oxlen.core.long_exposure.ways import ways
from oxlen.core.motion.drawing import SHOWS_STOPS
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import VANISHING_SHARE
from oxlen.core.review.drawing_take import seen_drawing
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.lamp_line import lamp_line
from oxlen.core.simulate.later import later
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Floats, Layer, Scene, SceneMover, reduced
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene

PHONE = shipped_profile("wherry-3").to_phone()
CASES = 100
LUMA_F = LUMA.astype(np.float32)
KIT = (LensFilter("ND 8", 8.0), LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0))
GAPS_S = (0.01, 0.05)
"""Between the frames of a mode that the phone computes: it hardly stops."""
KNOWN_WITHIN = 0.1
"""Speeds and distances are known to about a tenth."""
LEFT, SHARP = VANISHING_SHARE, 0.8
"""Contrast that may be left over grain, and the share of a frame's detail that boards keep."""
WORDS = ("OXLEN", "OAR", "heart", "star", "boat", "SAIL", "KEEL", "circle")


@dataclass(frozen=True)
class Case:
    """A picture wanted: scene, what of it moves and how it shall look, and the light (stops)."""

    scene: Scene
    mover: str
    look: str
    lens: str
    light_stops: float
    gap_s: float
    seed: int


def figures() -> Figures:
    """What is measured."""
    failed = [case for case in map(_carried_out, _cases()) if case]
    for why in failed[:12]:
        print(f"      {why}")
    yield Figure("long-times/missed-%", 100 * len(failed) / CASES)
    missed = [case for case in map(_drawn, range(CASES)) if case]
    for why in missed[:12]:
        print(f"      {why}")
    yield Figure("long-times/drawings-missed-%", 100 * len(missed) / CASES)


def _cases() -> Iterator[Case]:
    scenes = {
        "sluice": ("fall", ("texture", "soft"), "main"),
        "dinghy-passing": ("dinghy", ("vanish",), "long"),
        "lantern-evening": ("walker", ("vanish",), "main"),
    }
    for seed in range(CASES):
        draw = np.random.default_rng(seed)
        name = draw.choice(list(scenes))
        mover, looks, lens = scenes[name]
        yield Case(
            _only(reduced(shipped_scene(name), 2), mover),
            mover,
            str(draw.choice(looks)),
            lens,
            light_stops=float(draw.uniform(-5, 0)),
            gap_s=float(draw.uniform(*GAPS_S)),
            seed=seed,
        )


def _only(scene: Scene, mover: str) -> Scene:
    """The scene with one thing that moves, its lamps steady: what is judged is that alone."""
    return replace(
        scene,
        lamps=(),
        movers=tuple(time_s for time_s in scene.movers if time_s.name == mover),
        layers=tuple(layer for layer in scene.layers if layer.name == mover),
    )


def _brief(case: Case) -> Brief:
    """What its photographer would ask, with speed and distance a little off."""
    draw = np.random.default_rng(1000 + case.seed)
    known = _known(case)
    off = draw.uniform(1 - KNOWN_WITHIN, 1 + KNOWN_WITHIN, 2)
    look = ShownMotion(
        name=case.mover,
        speed_m_s=round(known.speed_m_s * off[0], 3),
        distance_m=round(known.distance_m * off[1], 3),
        look=case.look,  # type: ignore[arg-type]
        width_m=round(_width_m(case) * float(draw.uniform(1.0, 1.2)), 2),
        background_stops=_against_ground_stops(case),
    )
    light = float(np.median(case.scene.radiance @ LUMA_F)) * 2.0**case.light_stops
    ev100 = math.log2(light / float(luminance_cd_m2(0.0)))
    asked = {
        LENS.name: case.lens,
        SUPPORT.name: "tripod",
        LOOKS.name: (look,),
        FORMAT.name: "raw",
        OUTPUT.name: Output(snr="any"),
        FRAMES.name: Frames(gap_s=case.gap_s),
    }
    readings = (PlacedReading("subject", ev100),)
    return Brief(PHONE, readings, filters_at_hand=KIT, asked=asked)


def _known(case: Case) -> SceneMover:
    return next(mover for mover in case.scene.movers if mover.name == case.mover)


def _layer(case: Case) -> Layer | None:
    return next((layer for layer in case.scene.layers if layer.name == case.mover), None)


def _width_m(case: Case) -> float:
    """How long what moves is along its way."""
    layer = _layer(case)
    if layer is None:
        return 0.5
    columns = np.flatnonzero(layer.cover.max(axis=0) > 0.5)
    return float(np.ptp(columns) + 1) * _known(case).distance_m / case.scene.pixels_per_radian


def _against_ground_stops(case: Case) -> float:
    """How much brighter or darker what crosses is than what it crosses, where they differ most."""
    layer = _layer(case)
    if layer is None:
        return 0.0
    rows = slice(max(0, layer.top), layer.top + layer.cover.shape[0])
    ground = case.scene.radiance[rows] @ LUMA_F
    own = (layer.colour @ LUMA_F)[layer.cover > 0.5]
    low, high = (float(np.quantile(own, q)) for q in (0.05, 0.95))
    behind = max(1e-4, float(np.median(ground)))
    return max(
        (math.log2(max(time_s, 1e-4) / behind) for time_s in (low, high)), key=lambda k: 2.0**k
    )


def _carried_out(case: Case) -> str:
    """Why a case misses its acceptance; empty where it meets it."""
    found = [way for way in ways(_brief(case)) if way.reaches]
    together = [route for route in found if route.frames > 1]
    chosen = next(iter(together), next(iter(found), None))
    if chosen is None:
        return f"{case.seed} {case.scene.id} {case.look}: no way reaches it"
    missed = _missed(case, chosen)
    return f"{case.seed} {case.scene.id} {case.look} by {chosen.id}: {missed}" if missed else ""


def _missed(case: Case, way: Way) -> str:
    """What of a way's acceptance is not met, the way carried out on the bench."""
    glass = sum(math.log2(lens_filter.factor) for lens_filter in way.brief[LENS_FILTERS])
    dim = 2.0 ** (case.light_stops + way.brief.light_shift_stops)
    settings = CaptureSettings(
        way.iso or 50.0,
        way.shutter_s or 1.0,
        _known(case).distance_m,
        support="tripod",
        glass_stops=glass,
    )
    shot = Shot(case, settings, dim)
    alone = shot.frame(replace(case.scene, layers=()), seed=case.seed)
    if case.look != "vanish":
        return _streak(case, way) or _boards(case, shot.together(way.frames), alone)
    together = shot.together(way.frames)
    left = cv2.blur(together / np.maximum(alone, 1e-4) - 1, (9, 9))[_path(case)]
    # What is left of it is measured where it was, over the grain of the other places.
    grain = float(np.quantile(np.abs(left[:, :8]), 0.9))
    worst = float(np.quantile(np.abs(left), 0.95))
    if worst > LEFT + 2 * grain:
        return f"{worst:.3f} of it is left, grain {grain:.3f}"
    return _boards(case, together, alone)


@dataclass(frozen=True)
class Shot:
    """A case's scene in its light, and what it is shot with."""

    case: Case
    settings: CaptureSettings
    dim: float

    def frame(self, scene: Scene, *, seed: int) -> Floats:
        """Linear luminance of one frame of a scene."""
        lens, light = PHONE.lens(self.case.lens), np.float32(self.dim)
        layers = tuple(replace(layer, colour=layer.colour * light) for layer in scene.layers)
        lit = replace(scene, radiance=scene.radiance * light, layers=layers)
        taken = capture(
            lit, lens, lens.mode(None), settings=self.settings, random=SeededRandom(seed)
        )
        return np.asarray(demosaiced(taken.raw) @ LUMA_F, dtype=np.float32)

    def together(self, frames: int) -> Floats:
        """So many frames of it, one after another, averaged: what crosses begins at the edge."""
        scene, every_s = self.case.scene, self.settings.shutter_s + self.case.gap_s
        layers = tuple(replace(layer, left=-layer.cover.shape[1]) for layer in scene.layers)
        scene = replace(scene, layers=layers)
        in_all = np.zeros(0, dtype=np.float32)
        for number in range(frames):
            at = every_s * (number + 0.5)
            seen = self.frame(later(scene, at, again=False), seed=self.case.seed * 997 + number)
            in_all = seen if number == 0 else in_all + seen
        return np.asarray(in_all / frames, dtype=np.float32)


def _streak(case: Case, way: Way) -> str:
    """The streak by the scene's own speed against the look."""
    known, lens = _known(case), PHONE.lens(case.lens)
    mode, look = lens.mode(None), look_of(case.look)
    elapsed_s = way.frames * (way.shutter_s or 0) + (way.frames - 1) * case.gap_s
    side_um = mode.pixel_pitch_um * min(mode.width_px, mode.height_px)
    share = known.speed_m_s / known.distance_m * lens.focal_mm * 1000 / side_um * elapsed_s
    within = (1 - 1.5 * KNOWN_WITHIN) * (look.share_min or 0) <= share
    within &= share <= (1 + 1.5 * KNOWN_WITHIN) * (look.share_max or math.inf)
    return "" if within else f"a streak of {share:.2f}"


def _boards(case: Case, together: Floats, alone: Floats) -> str:
    sharp = _detail(together, case) / _detail(alone, case)
    return "" if sharp > SHARP else f"boards keep {sharp:.2f} of their detail"


def _path(case: Case) -> slice:
    layer = _layer(case)
    assert layer is not None
    return slice(max(0, layer.top), layer.top + layer.cover.shape[0])


def _detail(light: Floats, case: Case) -> float:
    """Detail of what is still, its noise smoothed away."""
    water = case.scene.mask_of(tuple(o for mover in case.scene.movers for o in mover.objects))
    seen = cv2.resize(water, light.shape[::-1], interpolation=cv2.INTER_NEAREST)
    smooth = cv2.GaussianBlur(light, (0, 0), 1.2)
    edges = np.abs(cv2.Laplacian(np.log2(np.maximum(smooth, 1e-4)), cv2.CV_32F))
    still = seen == 0
    if case.look == "vanish":
        still[_path(case)] = False
    return float(np.quantile(edges[still], 0.97))


def _drawn(seed: int) -> str:
    """A lamp drawing planned, its advice taken, drawn by a hand that is a tenth off."""
    draw = np.random.default_rng(seed)
    drawing = Drawing(
        what=str(draw.choice(WORDS)),
        height_m=float(draw.uniform(0.3, 0.9)),
        distance_m=float(draw.uniform(3.0, 6.0)),
        hand_m_s=float(draw.uniform(0.4, 1.0)),
        lamp_lm=float(10 ** draw.uniform(-1, 1.5)),
        lamp_mm=float(draw.uniform(8, 40)),
    )
    wall = PlacedReading("keep-dark", float(draw.uniform(-9, -5)), name="wall")
    made = Brief(PHONE, (wall,), asked={LENS.name: "main", SUPPORT.name: "tripod"})
    planned = drawing_plan(made.asking(DRAWING, drawing))
    if not planned.room.fits:
        drawing = replace(drawing, height_m=0.3, distance_m=6.0)
    over = (planned.trail_stops or 0.0) - planned.white_stops + COLOUR_SPARE_STOPS + 0.3
    drawing = replace(drawing, dim_stops=min(12.0, max(0.0, over)))
    planned = drawing_plan(made.asking(DRAWING, drawing))
    for parts in range(2, 13):
        if planned.shutter_s is not None:
            break
        drawing = replace(drawing, parts=parts)
        planned = drawing_plan(made.asking(DRAWING, drawing))
    if planned.shutter_s is None or planned.level_stops is None:
        return f"{seed}: no shutter for {drawing.what}"
    return _drawn_by(seed, drawing, planned)


def _drawn_by(seed: int, drawing: Drawing, planned: DrawingPlan) -> str:
    draw = np.random.default_rng(5000 + seed)
    hand = drawing.hand_m_s * float(draw.uniform(0.9, 1.1))
    took = max(part.length for part in drawing.in_parts) * drawing.height_m / hand
    assert planned.shutter_s is not None
    assert planned.trail_stops is not None
    assert planned.level_stops is not None
    if took > planned.shutter_s:
        return f"{seed}: the drawing took {took:.1f} s, the shutter {planned.shutter_s:g} s"
    level = planned.trail_stops + math.log2(drawing.hand_m_s / hand)
    ground = np.full((450, 600, 3), 0.18 * 2.0**planned.level_stops, dtype=np.float32)
    ground *= draw.normal(1, 0.05, ground.shape).astype(np.float32)
    frame = lamp_line(
        ground,
        planned.strokes,
        height_share=drawing.height_m / planned.room.high_m,
        level_stops=level,
        wide_px=max(1.5, planned.line_px * 600 / PHONE.lens("main").mode(None).width_px),
    )
    light = np.clip(frame @ LUMA_F, 0, 1).astype(np.float32)
    seen = seen_drawing(light, (0.0, 0.0, 1.0, 1.0))
    if seen.ground_stops > SHOWS_STOPS:
        return f"{seed}: the ground lies at {seen.ground_stops:.1f}"
    if seen.line_stops is None or seen.line_stops < -1.5 or seen.edges:
        return f"{seed}: line {seen.line_stops}, edges {seen.edges}, {planned.trail_stops:.1f}"
    return ""
