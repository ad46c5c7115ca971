"""Judging a take: each demand by its own measure, just met and just missed."""

import unittest

import cv2
import numpy as np

from oxlen.core.light.exposure import ev100, luminance_cd_m2
from oxlen.core.review.acceptance import JudgedTake, failings, hand_px, region_stops
from oxlen.core.simulate.automatic import auto_focus_m, metered_ev100
from oxlen.core.simulate.capture import Capture, capture
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.readout import CHANNEL_GAIN, MOSAIC_TILE, RawFrame
from oxlen.core.simulate.scene import Scene, SceneLamp, SceneMover, Star, StarField
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import AcceptanceFile, RegionFile, scene_truth
from tests.core.asking import ask_brief, replace

PROFILE = shipped_profile("wherry-3")
LENS = PROFILE.to_phone().lens("main")
CAMERA = Camera(LENS, binned_mode(LENS.mode(None), 320, 240))
TRIPOD = CaptureSettings(100, 1 / 60, 4.0, support="tripod")
TONE = {"name": "card", "x": 0.5, "y": 0.5, "r": 0.1, "role": "neutral", "low": -20, "high": 20}


def scene(**more):
    """A flat scene at 4 m, EV 8."""
    light = np.full((240, 320, 3), float(luminance_cd_m2(8.0)), np.float32)
    given = {"objects": np.zeros((240, 320), np.uint8), **more}
    distance = given.pop("distance_m", np.full((240, 320), 4.0, np.float32))
    return Scene("flat", "a flat", light, distance_m=distance, hfov_deg=71.57, **given)


def raw(level_share=0.1):
    """A raw frame of one neutral level."""
    mosaic = np.empty((240, 320), np.uint16)
    for row, column, channel in MOSAIC_TILE:
        share = min(1.0, level_share * CHANNEL_GAIN[channel])
        mosaic[row::2, column::2] = round(256 + 3839 * share)
    return RawFrame(mosaic, 256, 4095, mid_share=0.1)


def judged(wanted, settings=TRIPOD, of=None, *, frame=None, is_raw=True):
    """What a take lacks of what is wanted: demand and words."""
    acceptance = AcceptanceFile(**{"tones": [TONE], "clipped_share_max": 1.0, **wanted})
    truth = scene_truth("yard-overcast").model_copy(update={"acceptance": acceptance})
    capture = Capture(frame or raw(), CAMERA, settings)
    taken = JudgedTake(of or scene(), capture, seed=5, is_raw=is_raw)
    return [(failing.demand, failing.words) for failing in failings(truth.acceptance, taken)]


class Tones(unittest.TestCase):
    def test_a_tone_is_the_mean_of_its_region_in_stops_from_mid(self):
        picture = np.full((200, 300), 0.18, np.float32)
        picture[80:120, 130:170] = 0.72
        region = RegionFile(name="card", x=0.5, y=0.5, r=0.05)
        self.assertAlmostEqual(region_stops(picture, region), 2.0, places=5)
        self.assertAlmostEqual(region_stops(picture * 0, region), np.log2(1e-6 / 0.18), places=3)

    def test_just_inside_passes_and_just_outside_is_named(self):
        for low, high, fails in ((-0.1, 0.1, False), (0.1, 1, True), (-1, -0.1, True)):
            found = judged({"tones": [{**TONE, "low": low, "high": high}]})
            self.assertEqual([demand for demand, _ in found], ["tone"] if fails else [])
        self.assertIn("card at", found[0][1])

    def test_clipping_is_counted_where_it_is_kept(self):
        full = raw(10.0)
        half = RawFrame(np.where(np.arange(320) < 160, full.mosaic, 300), 256, 4095, mid_share=0.1)
        self.assertEqual(judged({"clipped_share_max": 0.51}, frame=half), [])
        found = judged({"clipped_share_max": 0.49}, frame=half)
        self.assertEqual(found, [("clipping", "50.0% clipped, at most 49.0%")])


PLANK = {"name": "plank", "x": 0.75, "y": 0.25, "r": 0.02}


class Sharpness(unittest.TestCase):
    def wanted(self, px):
        return {"sharp": [{**PLANK, "max_blur_px": px}]}

    def test_focus_is_judged_where_the_region_lies(self):
        """A textured plank at 4 m: in focus, and focused in front of it by a known blur."""
        draw = np.random.default_rng(1)
        texture = cv2.GaussianBlur(draw.uniform(10, 90, (240, 320)).astype(np.float32), (0, 0), 1.2)
        plank = replace(scene(), radiance=np.repeat(texture[..., None], 3, axis=2))
        for focused_m, fails in ((4.0, False), (0.25, True)):
            settings = replace(TRIPOD, focused_m=focused_m, white_k=6500.0)
            frame = capture(plank, LENS, LENS.mode(None), settings=settings, random=SeededRandom(2))
            taken = JudgedTake(plank, frame, seed=2, is_raw=True)
            acceptance = AcceptanceFile(tones=[TONE], clipped_share_max=1.0, **self.wanted(3.0))
            with self.subTest(focused_m=focused_m):
                found = [failing.demand for failing in failings(acceptance, taken)]
                self.assertEqual(found, ["focus"] if fails else [])

    def test_the_hand_is_judged_by_its_own_path_and_forgiven_in_a_pan(self):
        held = replace(TRIPOD, support="handheld", shutter_s=2.0)
        shake = hand_px(JudgedTake(scene(), Capture(raw(), CAMERA, held), 5))
        self.assertGreater(shake, 0.5)
        self.assertEqual(hand_px(JudgedTake(scene(), Capture(raw(), CAMERA, TRIPOD), 5)), 0.0)
        self.assertEqual(judged(self.wanted(1.02 * shake), held), [])
        self.assertEqual(judged(self.wanted(0.98 * shake), held)[0][0], "hand")
        self.assertEqual(judged(self.wanted(0.98 * shake), replace(held, pan_with="dinghy")), [])


class Motion(unittest.TestCase):
    def setUp(self):
        self.moving = scene(movers=(SceneMover("dinghy", 2.0, 10.0, image_angle_deg=0.0),))
        self.px = 0.2 * self.moving.pixels_per_radian / 60

    def test_what_must_be_frozen_is_judged_by_its_way_on_the_picture(self):
        for share, fails in ((1.02, False), (0.98, True)):
            wanted = {"freeze": [{"mover": "dinghy", "max_blur_px": share * self.px}]}
            found = [demand for demand, _ in judged(wanted, of=self.moving)]
            self.assertEqual(found, ["motion"] if fails else [])
            panned = replace(TRIPOD, pan_with="dinghy")
            self.assertEqual(judged(wanted, panned, of=self.moving), [])

    def test_a_streak_is_neither_too_short_nor_too_long(self):
        share = self.px / 240
        for low, high, fails in ((0.9, 1.1, False), (1.1, 2, True), (0.1, 0.9, True)):
            wanted = {"streak": [{"mover": "dinghy", "low": low * share, "high": high * share}]}
            found = [demand for demand, _ in judged(wanted, of=self.moving)]
            self.assertEqual(found, ["streak"] if fails else [])

    def test_bands_and_trails(self):
        lamps = (SceneLamp("panel", 4000, pulse_hz=100.0, depth=0.4), SceneLamp("sky", 6500))
        left = 0.4 * abs(np.sin(np.pi * 100 / 60) / (np.pi * 100 / 60))
        for most, fails in ((1.02 * left, False), (0.98 * left, True)):
            found = [demand for demand, _ in judged({"bands_max": most}, of=scene(lamps=lamps))]
            self.assertEqual(found, ["bands"] if fails else [])
        sky = scene(star_field=StarField(0, 0, 0, stars=(Star(0, 0, 0),)))
        trail = sky.pixels_per_radian * 2 * np.pi / 86164.1 * 20
        long = replace(TRIPOD, shutter_s=20.0)
        for most, fails in ((1.02 * trail, False), (0.98 * trail, True)):
            found = [demand for demand, _ in judged({"stars_max_trail_px": most}, long, of=sky)]
            self.assertEqual(found, ["trails"] if fails else [])


class Phone(unittest.TestCase):
    def test_focus_prefers_the_middle_among_equals_and_more_contrast_to_both(self):
        light = np.full((240, 320, 3), 10.0, np.float32)
        distance = np.full((240, 320), 9.0, np.float32)
        grain = np.random.default_rng(1).uniform(5, 20, (26, 26, 1)).astype(np.float32)
        for (row, column), away in (((107, 147), 3.0), ((27, 27), 1.0)):
            light[row : row + 26, column : column + 26] = grain
            distance[row : row + 26, column : column + 26] = away
        both = replace(scene(), radiance=light, distance_m=distance)
        self.assertEqual(auto_focus_m(both), 3.0)
        fainter = light.copy()
        fainter[107:133, 147:173] = 10 + 0.05 * grain
        self.assertEqual(auto_focus_m(replace(both, radiance=fainter)), 1.0)

    def test_lamps_do_not_count_without_end_in_its_meter(self):
        BenchPhone(PROFILE, LENS, LENS.mode(None))
        plain = scene()
        self.assertAlmostEqual(metered_ev100(plain, PROFILE.meter_offset_stops), 8.0, places=4)
        lit = plain.radiance.copy()
        lit[:24] *= 1e4
        # A tenth of the frame at 24 times the median at most: 0.9 + 0.1 · 24.
        found = metered_ev100(replace(plain, radiance=lit), PROFILE.meter_offset_stops)
        self.assertAlmostEqual(found, 8.0 + np.log2(0.9 + 2.4), places=3)

    def test_auto_behind_glass_lets_in_as_much_light_as_without(self):
        bench = BenchPhone(PROFILE, LENS, LENS.mode(None))
        brief = ask_brief(PROFILE.to_phone())
        for stops in (0.0, 3.0):
            settings = bench.auto_settings(scene(), "tripod", stops)
            bare = float(ev100(LENS.f_number, settings.shutter_s, settings.iso))
            self.assertAlmostEqual(bare + stops, 8.0, delta=0.2)
            self.assertEqual(settings.glass_stops, stops)
        self.assertIn(settings.iso, brief.mode.auto.iso)
