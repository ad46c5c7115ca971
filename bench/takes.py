"""Takes with a planted fault, looked at against the picture they were planned by.

`python -m bench takes`: how often the cause of blur is named, and how far length, lean and place
are off.
"""

from __future__ import annotations

import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from tests.pictures.making import exif, jpeg

from bench.harness.measure import Figure, Figures, in_turns
from oxlen.core.frames.alignment import aligned
from oxlen.core.hold.hand import Support
from oxlen.core.light.meter import Spot
from oxlen.core.light.tone import LUMA
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.level import lean, plumb_lines
from oxlen.core.review.take_seen import PlannedSpot, TakeSettings
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import CaptureSettings, shake_blur_px
from oxlen.core.simulate.moving import speed_px_s
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Scene
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.pictures.opening import open_picture
from oxlen.takes.checking import (
    check_file,
)
from oxlen.takes.planned import PlannedTake

Floats = NDArray[Any]
PHONE = shipped_profile("wherry-3").to_phone()
SUBJECTS = {
    "white-hull-sun": (0.5506, 0.5562),
    "yard-overcast": (0.5251, 0.5578),
    "bronze-bench": (0.62, 0.62),
    "varnish-tins": (0.5, 0.6),
    "tarred-shed": (0.42, 0.6),
    "dinghy-passing": (0.5139, 0.5295),
}
BLURS_PX = (2.5, 4.0, 6.0, 9.0)


@dataclass(frozen=True)
class Planted:
    """A take with a fault: the cause, its length (px), and what was found."""

    scene: str
    kind: str
    px: float
    found: str
    found_px: float


def planted(seeds: range) -> Iterator[Planted]:
    """Takes of every scene, each with nothing, the hand, focus or motion wrong."""
    for name, subject in SUBJECTS.items():
        scene = shipped_scene(name)
        row, column = (
            int(s * n) for s, n in zip(subject[::-1], scene.radiance.shape[:2], strict=True)
        )
        distance_m = float(np.median(scene.distance_m[row - 8 : row + 8, column - 8 : column + 8]))
        if scene.movers and name == "dinghy-passing":
            distance_m = scene.movers[0].distance_m
        shot = Shots(scene, distance_m)
        sharp = shot.taken(CaptureSettings(50.0, shot.shutter_s, distance_m, support="tripod"), 1)
        for seed in seeds:
            for kind, px, settings in shot.faults(seed):
                take = shot.taken(settings, seed)
                where = aligned(sharp, take)
                cause = None
                if where is not None:
                    hand_px = 0.0
                    if settings.support == "handheld":
                        hand_px = shake_blur_px(shot.frame.camera, settings)
                    place = where.place(*subject)
                    cause = blur_of_take(sharp, take, where, subject=place, hand_px=hand_px)
                found, length = ("nothing told", 0.0) if cause is None else (cause.kind, cause.px)
                yield Planted(name, kind, px, found, length)


class Shots:
    """Takes of one scene through the lens that fits it."""

    def __init__(self, scene: Scene, distance_m: float) -> None:
        self.scene, self.distance_m = scene, distance_m
        self.lens = PHONE.lens("long" if scene.hfov_deg < 40 else "main")
        light = float(np.median(scene.radiance @ LUMA.astype(np.float32))) / 0.125
        self.shutter_s = self.lens.f_number**2 / light * 100 / 50

    def taken(self, settings: CaptureSettings, seed: int) -> Floats:
        """Linear luminance of a frame, its exposure kept by a filter."""
        self.frame = capture(
            self.scene,
            self.lens,
            self.lens.mode(None),
            settings=settings,
            random=SeededRandom(seed),
        )
        return np.asarray(demosaiced(self.frame.raw) @ LUMA.astype(np.float32))

    def faults(self, seed: int) -> Iterator[tuple[str, float, CaptureSettings]]:
        """Cause, length (px) and settings that bring it about."""
        draw = np.random.default_rng(seed)
        px = float(draw.choice(BLURS_PX))
        yield "none", 0.0, self._settings(self.shutter_s, "tripod")
        a_second = shake_blur_px(self.frame.camera, self._settings(1.0, "handheld"))
        yield "shake", px, self._settings(px / a_second, "handheld")
        yield "defocus", px, self._settings(self.shutter_s, "tripod", self._focus_for(px))
        mover = next((item for item in self.scene.movers if item.name == "dinghy"), None)
        if mover is not None:
            seconds = px / speed_px_s(self.scene, mover)
            yield "motion", px, self._settings(seconds, "tripod")

    def _focus_for(self, px: float) -> float:
        """Distance (m) whose focus spreads the subject over so many pixels."""
        pitch_um = self.frame.camera.mode.pixel_pitch_um
        aperture_mm = self.lens.focal_mm / self.lens.f_number
        dioptres = px * pitch_um / (aperture_mm * self.lens.focal_mm)
        return 1 / (1 / self.distance_m + dioptres)

    def _settings(
        self, shutter_s: float, support: Support, focus_m: float | None = None
    ) -> CaptureSettings:
        glass = max(0.0, float(np.log2(shutter_s / self.shutter_s)))
        return CaptureSettings(
            50.0,
            shutter_s,
            focus_m or self.distance_m,
            support=support,
            glass_stops=glass,
        )


def figures() -> Figures:
    """What is measured."""
    takes = list(planted(range(1, 5)))
    wrong = Counter(f"{take.kind} as {take.found}" for take in takes if take.kind != take.found)
    print(f"      {len(takes)} takes; taken wrongly: {dict(wrong)}")
    yield Figure("takes/causes-wrong-%", 100 * sum(wrong.values()) / len(takes))
    discs = [
        abs(take.found_px / take.px - 1) for take in takes if take.kind == take.found == "defocus"
    ]
    yield Figure("takes/defocus-off-%", 100 * float(np.median(discs)))
    yield from _leans()
    yield from _places()
    yield from _looking()


def _looking() -> Figures:
    """Looking a 12-megapixel take over against the decode of it and its reference."""
    light = cv2.resize(shipped_scene("yard-overcast").radiance, (4000, 3000))
    grain = np.random.default_rng(1).normal(1, 0.02, (3000, 4000, 1)).astype(np.float32)
    codes = 255 * np.clip(light / np.quantile(light, 0.97) * grain, 0, 1) ** (1 / 2.2)
    with tempfile.TemporaryDirectory() as folder:
        take, planned_by = Path(folder) / "take.jpg", Path(folder) / "plan.jpg"
        planned_by.write_bytes(jpeg(codes, exif(iso=50, shutter=(1, 500)), quality=92))
        moved = np.roll(codes, 60, axis=1)
        take.write_bytes(jpeg(moved, exif(iso=50, shutter=(1, 400)), quality=92))
        spots = (Spot("hull", 0.5, 0.55), Spot("sky", 0.4, 0.1))
        planned = (PlannedSpot("hull", "subject", 0.0, 0.0),)
        plan = PlannedTake(TakeSettings(50, 1 / 500, 5500), planned, spots, frame_px=4000)
        ratio = in_turns(
            lambda: check_file(take, "take", reference=(planned_by, "p"), plan=plan),
            lambda: [_decoded(path) for path in (take, planned_by)],
            rounds=6,
        )
    yield ratio.figure("takes/look-over-by-decode")


def _decoded(path: Path) -> int:
    with open_picture(path, path.name) as picture:
        return picture.luminance().size


def _leans() -> Figures:
    worst = []
    for name in ("white-hull-sun", "yard-overcast", "tarred-shed", "sluice"):
        light = np.asarray(shipped_scene(name).radiance @ LUMA.astype(np.float32))
        plain = lean(light)
        for degrees in (-4.0, -1.5, 0.7, 3.0):
            found = lean(_turned(light, degrees))
            if plain is not None and found is not None:
                worst.append(abs(found.degrees - plain.degrees - degrees))
    yield Figure("takes/lean-off-deg", float(np.quantile(worst, 0.9)))
    reported = []
    for name in ("sluice", "tarred-shed", "varnish-tins", "white-hull-sun"):
        light = np.asarray(shipped_scene(name).radiance @ LUMA.astype(np.float32))
        for degrees in (-3.0, 0.0, 1.5, 3.0):
            plumb = plumb_lines(_turned(light, degrees))
            if plumb is not None:
                reported.append(abs(plumb.middle_lean_deg - degrees))
    yield Figure(
        "takes/lean-alone-off-deg", float(np.median(reported)), note=f"{len(reported)} takes"
    )


def _places() -> Figures:
    off, lost = [], 0
    for name in ("white-hull-sun", "yard-overcast", "bronze-bench", "varnish-tins", "tarred-shed"):
        light = np.asarray(shipped_scene(name).radiance @ LUMA.astype(np.float32))
        height, width = light.shape
        for across, down, degrees, stops in ((0.15, 0.0, 5.0, 1.0), (-0.1, 0.12, -5.0, -1.0)):
            matrix = cv2.getRotationMatrix2D((width / 2, height / 2), -degrees, 1.0)
            matrix[:, 2] += (across * width, down * height)
            noise = np.random.default_rng(1).normal(0, 0.02, light.shape)
            take = cv2.warpAffine(light, matrix, (width, height), borderMode=cv2.BORDER_REFLECT)
            seen = np.minimum(
                np.maximum(take * 2.0**stops * (1 + noise), 0), np.quantile(light, 0.98)
            )
            found = aligned(light, seen.astype(np.float32))
            if found is None:
                lost += 1
                continue
            for x, y in ((0.3, 0.3), (0.5, 0.5), (0.7, 0.7)):
                true = matrix @ np.array([x * width, y * height, 1])
                place = found.place(x, y)
                off.append(
                    float(np.hypot(place[0] * width - true[0], place[1] * height - true[1])) / width
                )
    yield Figure("takes/not-aligned-of-10", float(lost))
    yield Figure("takes/places-off-%", 100 * max(off))


def _turned(light: Floats, degrees: float) -> Floats:
    """A picture turned clockwise, cut to what it still fills."""
    height, width = light.shape
    matrix = cv2.getRotationMatrix2D((width / 2, height / 2), -degrees, 1.0)
    turned = cv2.warpAffine(light, matrix, (width, height), flags=cv2.INTER_LINEAR)
    return turned[height // 10 : -height // 10, width // 10 : -width // 10]
