"""Foreground under the stars: how it looks by itself, its lamp, its own frames, and its skyline."""

import unittest

import cv2
import numpy as np

from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.exposure.ask import LAND, SKY
from oxlen.core.decisions.exposure.scene_ask import Land, Sky
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.frames.skyline import foreground_over_line, skylines_aligned
from oxlen.core.light.exposure import ev100
from oxlen.core.night.ask import NightAsk
from oxlen.core.night.foreground import ForegroundLight, foreground_settings, foreground_ways
from oxlen.core.sky.brightness import sky_ev100
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
MAIN = WHERRY.lens("main")
MODE = MAIN.mode(None)
LAMPS = [("1 lm", 1.0), ("20 lm", 20.0)]


def ways(light, **asked):
    found = foreground_ways(MAIN, MODE, NightAsk(**asked), light=light, lamps=LAMPS)
    return {step.id: step for step in found}


class Ways(unittest.TestCase):
    def test_by_the_sky_alone_land_is_a_shape_and_the_moon_fills_it(self):
        # A sky of m = 21.3 lights the ground with π·L = 1.0e-3 lx; of that grass gives back 15 %.
        dark = ways(ForegroundLight(1.03e-3), sky_magnitude=21.3)["silhouette"]
        self.assertAlmostEqual(dark.lands_stops, -3 + np.log2(0.15), delta=0.05)
        self.assertIn("No extra frame", " ".join(dark.told))
        moonlit = ways(ForegroundLight(8e-3), sky_magnitude=21.0)["silhouette"]
        self.assertIn("not a silhouette", " ".join(moonlit.told))

    def test_snow_and_tar_take_what_they_throw_back(self):
        light = ForegroundLight(1.03e-3, 0.6, dusk_stop_s=200.0)
        tar, grass, snow = (ways(light, land_reflects=share) for share in (0.05, 0.15, 0.75))
        for way in ("silhouette", "lit", "dusk", "dark"):
            self.assertEqual(tar[way].id, snow[way].id)
        brighter = snow["silhouette"].lands_stops - tar["silhouette"].lands_stops
        self.assertAlmostEqual(brighter, np.log2(0.75 / 0.05), delta=0.01)
        self.assertIn("not a silhouette", " ".join(snow["silhouette"].told))
        self.assertAlmostEqual(snow["dusk"].ev100 - grass["dusk"].ev100, np.log2(5), delta=0.01)
        self.assertLess(snow["dark"].elapsed_s, grass["dark"].elapsed_s)

    def test_the_lamp_gives_what_the_night_leaves_out(self):
        for lift in (0.0, 2.0):
            found = ways(ForegroundLight(1e-3), sky_magnitude=21.3, land_stops=lift)["lit"]
            metres = float(found.answer.split(" from ")[1].split()[0])
            lx = 1.0 / (4 * np.pi * metres**2) + 1e-3
            under = np.log2(0.15 * lx / np.pi / 0.125) - float(sky_ev100(21.3))
            self.assertAlmostEqual(under, lift, delta=0.1)  # written to two digits
        self.assertEqual(ways(ForegroundLight(1.0), sky_magnitude=21.3)["lit"].answer, "No lamp")

    def test_its_own_frames_land_where_the_sky_does_and_are_clean(self):
        for magnitude in (18.5, 20.0, 21.3, 21.9):
            for lift in (-1.0, 0.0, 1.5):
                light = ForegroundLight(3.3e5 * 10 ** (-0.4 * magnitude), 0.6, dusk_stop_s=200.0)
                found = ways(light, sky_magnitude=magnitude, land_stops=lift)
                for step in (found["dusk"], found["dark"]):
                    with self.subTest(step.id, magnitude=magnitude, lift=lift):
                        self.assertIn(step.iso, MODE.manual.iso)
                        self.assertIn(step.shutter_s, MODE.manual.shutter_s)
                        off = step.lands_stops - (-3.0 + lift)
                        reported = " ".join(step.told)
                        self.assertTrue(abs(off) <= 0.5 or "when blending" in reported, off)
                        self.assertGreater(step.snr, 9.8)
                self.assertEqual(found["dusk"].frames, 1)
                self.assertLess(found["dusk"].elapsed_s, found["dark"].elapsed_s)
        self.assertNotIn("dusk", ways(ForegroundLight(1e-3)))

    def test_land_too_dark_for_a_lens_is_said_to_be(self):
        long = WHERRY.lens("long")
        asked, light = NightAsk(21.6), ForegroundLight(8e-4, 0.6, dusk_stop_s=200.0)
        dusk, dark = foreground_ways(long, long.mode(None), asked, light=light, lamps=LAMPS)[2:]
        self.assertTrue(dusk.reaches)
        self.assertFalse(dark.reaches)
        self.assertIn("Too dark for this lens", dark.told[0])
        self.assertTrue(ways(light, sky_magnitude=21.3)["dark"].reaches)

    def test_settings_are_the_lowest_iso_whose_shutter_the_phone_has(self):
        for ev in (8.0, 0.1, -4.0, -8.0):
            iso, shutter_s = foreground_settings(MAIN, MODE, ev)
            self.assertAlmostEqual(float(ev100(MAIN.f_number, shutter_s, iso)), ev, delta=0.2)
            lower = [step for step in MODE.manual.iso if step < iso]
            if lower:
                longest = float(ev100(MAIN.f_number, MODE.manual.shutter_s[-1], lower[-1]))
                self.assertGreater(longest, ev)
        # Darker than any step reaches: the most there is.
        self.assertEqual(
            foreground_settings(MAIN, MODE, -20.0), (MODE.manual.iso[-1], MODE.manual.shutter_s[-1])
        )


class Runs(unittest.TestCase):
    def steps(self, ask, value):
        readings = [PlacedReading("subject", -3.0, -3.0)]
        brief = ask_brief(WHERRY, readings=readings, support="tripod").asking(ask, value)
        return [step.id for step in run_list(plan(brief))]

    def test_the_run_tells_when_the_lands_frames_are_shot(self):
        for land, step in (("dusk", "land-first"), ("lit", "land-lit"), ("dark", "land-after")):
            steps = self.steps(SKY, Sky(land=land))
            self.assertEqual([item for item in steps if item.startswith("land-")], [step])
            shot = next(at for at, item in enumerate(steps) if item.startswith("shoot"))
            self.assertEqual(steps.index(step) > shot, land == "dark", steps)
        alone = self.steps(LAND, Land())
        self.assertIn("feet-marked", alone)
        self.assertNotIn("star-focus", alone)


class Skyline(unittest.TestCase):
    def frame(self, noise=0.0):
        """A dusk sky brighter to one side and to its foot, a mast, a roof, and foreground below."""
        y, x = np.mgrid[0:300, 0:400]
        sky = 0.1 * 2.0 ** (1.5 * x / 400 + 1.2 * y / 300)
        land = (y >= 210) | ((abs(x - 100) < 3) & (y > 60)) | ((abs(x - 300) < 60) & (y > 170))
        light = np.where(land, 0.02 + 0.01 * np.sin(x / 7.0), sky)
        draw = np.random.default_rng(4)
        return (light * (1 + noise * draw.normal(size=light.shape))).astype(np.float32), land

    def test_what_stands_up_dark_over_the_line_is_land(self):
        below = np.repeat((np.arange(300) >= 216)[:, None], 400, axis=1).astype(np.float32)
        for noise in (0.0, 0.1):
            light, land = self.frame(noise)
            light[20:24, 200:204] = 0.001  # a dark bird is over nothing
            found = foreground_over_line(light, below) > 0.5
            edge = cv2.dilate(land.astype(np.uint8), np.ones((3, 3))) - cv2.erode(
                land.astype(np.uint8), np.ones((3, 3))
            )
            wrong = (found != land) & (edge == 0)
            self.assertLess(wrong.mean(), 0.001, noise)
            self.assertFalse(found[20:24, 200:204].any())

    def test_skylines_tell_how_far_the_phone_was_moved_but_not_along_a_straight_one(self):
        y, x = np.mgrid[0:540, 0:720]
        grain = np.random.default_rng(1).normal(0, 0.6, (2, 720)).round()

        def hills(dx, dy):
            edge = 300 + dy + 8 * np.sin((x - dx) / 60) + 5 * np.sin((x - dx) / 23)
            return (y > edge).astype(np.float32)

        aligned_take = skylines_aligned(hills(0, 0), hills(6, 4))
        middle = np.array([[360.0, 270.0]])
        np.testing.assert_allclose(aligned_take.places(middle), [[366, 274]], atol=0.1)
        sea = [(y > 300 + 3 * at + grain[at][None, :]).astype(np.float32) for at in (0, 1)]
        moved = skylines_aligned(*sea).places(middle) - middle
        np.testing.assert_allclose(moved, [[0, 3]], atol=0.2)
        self.assertIsNone(
            skylines_aligned(hills(0, 0), hills(0, 0).T[:540, :540].repeat(2, 1)[:, :720])
        )

    def test_land_as_light_as_the_sky_is_told_by_the_line_alone(self):
        below = np.repeat((np.arange(300) >= 216)[:, None], 400, axis=1).astype(np.float32)
        light, land = self.frame()
        lit = np.where(land, 0.3, light).astype(np.float32)
        self.assertIsNone(foreground_over_line(lit, below))
