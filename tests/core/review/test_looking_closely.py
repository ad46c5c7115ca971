"""Sky, verticals and bands of lamps as a take shows them."""

import unittest

import cv2
import numpy as np
from bench.takes import Shots, _turned

from oxlen.core.frames.alignment import aligned
from oxlen.core.light.tone import LUMA
from oxlen.core.review.lamp_bands import lamp_bands
from oxlen.core.review.level import converging_deg, plumb_lines
from oxlen.core.review.skyline import skyline
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.formats.scene_file import shipped_scene


def light_of(name):
    return np.asarray(shipped_scene(name).radiance @ LUMA.astype(np.float32))


class Sky(unittest.TestCase):
    def test_share_height_and_slope_of_a_drawn_sky(self):
        for height, slope in ((0.3, 0.0), (0.55, 4.0), (0.7, -6.0)):
            light = np.full((300, 400), 0.04, np.float32)
            rows, columns = np.mgrid[:300, :400]
            edge = 300 * height + np.tan(np.radians(slope)) * (columns - 199.5)
            light[rows < edge] = 0.4
            found = skyline(light)
            with self.subTest(height=height, slope=slope):
                self.assertAlmostEqual(found.sky_share, height, delta=0.02)
                self.assertAlmostEqual(found.height_share, height, delta=0.02)
                self.assertAlmostEqual(found.tilt_deg, slope, delta=0.5)
                self.assertAlmostEqual(found.over_land_stops, np.log2(10), delta=0.1)

    def test_a_mast_does_not_lower_the_sky_and_a_bench_has_none(self):
        light = np.full((300, 400), 0.04, np.float32)
        light[:150] = 0.4
        light[20:150, 200:206] = 0.03
        self.assertAlmostEqual(skyline(light).height_share, 0.5, delta=0.02)
        for name in ("bronze-bench", "varnish-tins", "tarred-shed"):
            self.assertIsNone(skyline(light_of(name)))
        self.assertAlmostEqual(skyline(light_of("dinghy-passing")).sky_share, 0.41, delta=0.03)


class Verticals(unittest.TestCase):
    def test_walls_that_lean_together_are_told_with_their_angle(self):
        light = np.full((600, 800), 0.3, np.float32)
        for place in np.linspace(-0.42, 0.42, 15):
            lean = np.tan(np.radians(-10 * place))
            foot = (int(400 + 800 * place), 560)
            head = (int(400 + 800 * place + 500 * lean), 60)
            cv2.line(light, foot, head, 0.02, 3, cv2.LINE_AA)
        self.assertAlmostEqual(converging_deg(light), 10.0, delta=1.0)
        self.assertAlmostEqual(converging_deg(np.flipud(light).copy()), -10.0, delta=1.0)
        self.assertIsNone(converging_deg(np.full((600, 800), 0.3, np.float32)))

    def test_a_level_scene_is_level_though_its_walls_converge(self):
        for name in ("tarred-shed", "varnish-tins", "white-hull-sun"):
            self.assertAlmostEqual(plumb_lines(light_of(name)).middle_lean_deg, 0.0, delta=0.3)
        turned = plumb_lines(_turned(light_of("tarred-shed"), 3.0))
        self.assertAlmostEqual(turned.middle_lean_deg, 3.0, delta=0.3)


class Bands(unittest.TestCase):
    def shots(self, name, shutter_s):
        shot = Shots(shipped_scene(name), 3.0)
        whole = shot.taken(CaptureSettings(50.0, shot.shutter_s, 3.0, support="tripod"), 1)
        iso = 50.0 * shot.shutter_s / shutter_s
        take = shot.taken(CaptureSettings(iso, shutter_s, 3.0, support="tripod"), 2)
        return whole, take, aligned(whole, take)

    def test_a_short_shutter_under_a_pulsing_lamp_shows_bands_and_daylight_none(self):
        found = lamp_bands(*self.shots("varnish-tins", 1 / 400))
        self.assertGreater(found.depth, 0.1)
        self.assertFalse(found.across)
        self.assertIsNone(lamp_bands(*self.shots("tarred-shed", 1 / 400)))

    def test_turned_on_its_side_they_run_across(self):
        whole, take, where = self.shots("varnish-tins", 1 / 400)
        base, shot = (np.ascontiguousarray(np.rot90(levels)) for levels in (whole, take))
        found = lamp_bands(base, shot, aligned(base, shot))
        self.assertTrue(found.across)
        self.assertAlmostEqual(found.count, lamp_bands(whole, take, where).count, delta=0.2)
