"""Nights planned by Oxlen and shot on the bench; the sky's own computations timed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import numpy as np

from bench.harness.measure import Figure, Figures, Ratio, in_turns
from bench.harness.reference import large_arrays
from oxlen.core.decisions.exposure.ask import SUPPORT
from oxlen.core.decisions.exposure.auto.capture import auto_capture
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import LENS as LENS_ASK
from oxlen.core.kit.phone import Mode
from oxlen.core.light.tone import LUMA
from oxlen.core.night.ask import NightAsk
from oxlen.core.night.ways import NightWay, night_ways
from oxlen.core.review.night_frame import night_frame
from oxlen.core.sensor.noise import mid_signal_e, snr, snr_at_output
from oxlen.core.simulate.capture import Capture, capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.later import later
from oxlen.core.simulate.night_sky import NightSky, under_night
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.readout import CHANNEL_GAIN
from oxlen.core.simulate.scene import FAR_M, Floats, Scene
from oxlen.core.sky.brightness import sky_ev100
from oxlen.core.sky.dark_windows import Wanted, dark_windows
from oxlen.core.sky.day import day_light
from oxlen.core.sky.place import Place
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.light_plan.night import night_plan
from oxlen.light_plan.night_place import NightPlace

PHONE = shipped_profile("wherry-3").to_phone()
LENS = PHONE.lens("main")
MODE = LENS.mode(None)
CASES, MOST_SHOT, ROUNDS = 60, 10, 5
LUMA_F = LUMA.astype(np.float32)
PATCH = (slice(230, 340), slice(340, 430))
"""Open sky near the middle, beside the mast's stay: no lens darkens it there."""
PLANE = (slice(115, 170), slice(170, 215))
"""The same on the planes of green."""
TRAILS_OF = 4
LEVEL_OFF, TRAIL_PX, MAD_SIGMA = 0.1, 1.0, 1.4826
PLACE = Place(44.6, -63.9)
START = datetime(2027, 5, 4, 15, tzinfo=UTC).timestamp()


def figures() -> Figures:
    """What is measured."""
    cases = [_case(seed) for seed in range(CASES)]
    missed = [case for case in cases if case.why]
    for item in missed[:10]:
        print(f"      {item.why}")
    auto = 100 * float(np.mean([not case.auto_meets for case in cases]))
    print(f"      on auto {auto:.0f} % miss it")
    yield Figure("nights/missed-%", 100 * len(missed) / CASES, note=f"on auto {auto:.0f} %")
    yield Figure("nights/sky-off-stops", max(case.level_off for case in cases))
    off = float(np.quantile([case.snr_off for case in cases], 0.95))
    yield Figure("nights/snr-off-share", off)
    day = _by_arrays(lambda at: day_light(PLACE, START + 86400.0 * at))
    yield day.figure("nights/day-by-arrays")
    yield _by_arrays(_year).figure("nights/year-by-arrays")
    yield _by_arrays(_night).figure("nights/night-by-arrays")


@dataclass(frozen=True)
class _Case:
    """What came of a night: why it was missed, and how far predictions were off."""

    why: str
    level_off: float
    snr_off: float
    auto_meets: bool


def _case(seed: int) -> _Case:
    draw = np.random.default_rng(7000 + seed)
    magnitude, wanted = float(draw.uniform(18.5, 21.8)), float(draw.uniform(10, 30))
    scene = under_night(shipped_scene("stars-over-slip"), NightSky(magnitude))
    # The brightness of the patch itself is what a test frame would have shown.
    level = float(np.median((scene.radiance @ LUMA_F)[PATCH]))
    known = -2.5 * math.log10(level / 10.8e4)
    asked = NightAsk(known, 20.0, snr=wanted)
    stack = next(way for way in night_ways(PHONE, LENS, MODE, asked=asked) if way.id == "stack")
    shot = [_shot(scene, stack, at, seed=seed) for at in range(min(stack.frames, MOST_SHOT))]
    sky = np.stack([_greens(item)[PLANE] for item in shot]).mean(axis=0)
    # One pixel against the next: the sky's own gradient is left out.
    # And by the middle deviation: the stars of the patch are no grain.
    grain = MAD_SIGMA * float(np.median(np.abs(np.diff(sky, axis=1)))) / math.sqrt(2)
    reported = _predicted(stack, shot[0].camera.mode, frames=len(shot))
    level_off = abs(float(np.log2(np.median(sky))) - (stack.sky_stops or 0.0))
    trail_px = float(np.median([_trail_px(item) for item in shot[:TRAILS_OF]]))
    planned_px = stack.corner_trail_px * scene.width_px / MODE.width_px
    why = ""
    if level_off > LEVEL_OFF:
        why = f"{seed}: the sky lies {level_off:.2f} stops off"
    elif not stack.reaches:
        why = f"{seed}: SNR {stack.snr:.1f} for {wanted:.1f}"
    elif trail_px > planned_px + TRAIL_PX:
        why = f"{seed}: stars trail {trail_px:.1f} px, {planned_px:.1f} planned"
    snr_off = abs(float(np.median(sky)) / grain / reported - 1)
    return _Case(why, level_off, snr_off, auto_meets=_auto_meets(scene, asked))


def _shot(scene: Scene, stack: NightWay, number: int, *, seed: int) -> Capture:
    """One frame of the stack."""
    seen = later(scene, number * (stack.shutter_s + stack.gap_s))
    settings = CaptureSettings(stack.iso or 100.0, stack.shutter_s, FAR_M, support="tripod")
    random = SeededRandom(100 * seed + number)
    return capture(seen, LENS, MODE, settings=settings, random=random)


def _trail_px(taken: Capture) -> float:
    """How far the stars of a frame trail, in pixels of the bench; 0 where none is clear."""
    light = np.asarray(demosaiced(taken.raw) @ LUMA_F, dtype=np.float32)
    focal_px = light.shape[1] / taken.camera.mode.sensor_mm[0] * LENS.focal_mm
    return night_frame(light, mid_ev100=None, focal_px=focal_px).trail_px or 0.0


def _greens(taken: Capture) -> Floats:
    """Both greens of a frame (h, w, 2), in multiples of mid."""
    raw = taken.raw
    both = np.stack([raw.mosaic[0::2, 1::2], raw.mosaic[1::2, 0::2]], axis=-1)
    plane = both.astype(np.float32) - np.float32(raw.black_dn)
    full = (raw.white_dn - raw.black_dn) * raw.mid_share * float(CHANNEL_GAIN[1])
    return np.asarray(plane / np.float32(full), dtype=np.float32)


def _predicted(stack: NightWay, mode: Mode, *, frames: int) -> float:
    """SNR of one of the bench's own pixels, which are larger, as section 4 has it."""
    iso = stack.iso or 100.0
    signal_e = float(mid_signal_e(mode.sensor, iso)) * 2.0 ** (stack.sky_stops or 0.0)
    noise_e = float(mode.read_noise_at(iso))
    return float(snr(signal_e, noise_e, mode.sensor.prnu_share, frames=frames))


def _auto_meets(scene: Scene, asked: NightAsk) -> bool:
    """Whether one frame on auto leaves the sky dark and clean enough."""
    auto = auto_capture(Brief(PHONE, asked={LENS_ASK.name: LENS.id, SUPPORT.name: "tripod"}), scene)
    sky = float(sky_ev100(asked.sky_magnitude)) - auto.ev100_set(LENS.f_number)
    signal_e = float(mid_signal_e(MODE.sensor, auto.iso)) * 2.0**sky
    noise_e = float(MODE.read_noise_at(auto.iso))
    a_pixel = float(snr(signal_e, noise_e, MODE.sensor.prnu_share))
    seen = float(snr_at_output(a_pixel, MODE.megapixels * 1e6, asked.pixels_out))
    return -4.6 <= sky <= -1.0 and seen >= asked.snr * 0.98


def _by_arrays(work: Callable[[int], object]) -> Ratio:
    """Work on ever another day, nothing of it remembered, against the fixed arrays."""
    days = iter(range(1000))
    work(next(days))
    return in_turns(lambda: work(next(days)), large_arrays)


def _year(at: int) -> object:
    first = START + 86400 * at
    return dark_windows(PLACE, first, first + 365 * 86400, wanted=Wanted())


def _night(at: int) -> object:
    where = NightPlace(PLACE, ZoneInfo("America/Halifax"))
    day = date(2027, 5, 1 + at)
    return night_plan(where, day, phone=PHONE, asked=NightAsk())
