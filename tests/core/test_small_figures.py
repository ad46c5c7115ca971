"""Figures at the edges of what they take, against published numbers and other implementations."""

import math
import unittest

import numpy as np
from scipy.interpolate import PchipInterpolator

from oxlen.core.checklist.set_up import set_up_steps
from oxlen.core.decisions.exposure.ask import SUPPORT
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.saving.pixels import pixel_advice
from oxlen.core.decisions.sequence.ask import (
    FRAMES,
    Frames,
)
from oxlen.core.decisions.sequence.ramp import rate_stops_min
from oxlen.core.decisions.solver.outcome import SpotState, outcome
from oxlen.core.errors import BadInput
from oxlen.core.focus.monotone import monotone_cubic
from oxlen.core.focus.slider import SliderPoint, SliderScale
from oxlen.core.frames.gain import noise_gain_stops
from oxlen.core.kit.lens_filter import read_filter
from oxlen.core.labels import shutter_label
from oxlen.core.light.meter import channel_stops
from oxlen.core.measures.level import battery
from oxlen.core.motion.subject import Mover
from oxlen.core.review.takes_compared import TakenWith, differences
from oxlen.core.sensor.photon_transfer import photon_transfer
from oxlen.core.sensor.raw_level import luminance_weights
from oxlen.core.sky.horizon import HorizonPoint, hidden_below_deg
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_output

WHERRY = shipped_profile("wherry-3").to_phone()


class Figures(unittest.TestCase):
    def test_shutters_read_as_a_phone_shows_them(self):
        rows = {
            1 / 8000: "1/8000 s",
            1 / 10: "1/10 s",
            1 / 6.4: "1/6.4 s",
            1 / 4: "1/4 s",
            1 / 3: "1/3 s",
            0.29: "0.29 s",
            0.5: "0.5 s",
            9.5: "9.5 s",
            10.0: "10 s",
            59.0: "59 s",
            60.0: "1 min",
            61.0: "1 min 1 s",
        }
        self.assertEqual({row: shutter_label(row) for row in rows}, rows)

    def test_medians_of_many_lose_what_the_statistics_have_them_lose(self):
        # Means by √n; medians lose the efficiency 2/π (Rousseeuw and Croux 1993) as n grows.
        loss = 0.5 * math.log2(2 / math.pi)
        self.assertAlmostEqual(noise_gain_stops("median", 10_000), math.log2(100) + loss, places=3)
        self.assertEqual(noise_gain_stops("sigma-clip", 3), noise_gain_stops("median", 3))

    def test_curves_through_points_are_those_of_another_implementation(self):
        draw = np.random.default_rng(3)
        for _ in range(60):
            count = int(draw.integers(3, 9))
            x = np.cumsum(draw.uniform(0.2, 2.0, count))
            y = np.cumsum(draw.uniform(-1.0, 1.0, count))
            at = np.linspace(x[0], x[-1], 50)
            np.testing.assert_allclose(
                monotone_cubic(x, y, at), PchipInterpolator(x, y)(at), atol=1e-9
            )

    def test_the_rate_of_changing_light_is_the_straight_line_through_all_readings(self):
        draw = np.random.default_rng(5)
        times = np.sort(draw.uniform(0, 3600, 7))
        light = 9 - times / 600 + draw.normal(0, 0.1, 7)
        wanted = np.polyfit(times / 60, light, 1)[0]
        found = rate_stops_min(list(zip(times.tolist(), light.tolist(), strict=True)))
        self.assertAlmostEqual(found, wanted, places=9)
        self.assertAlmostEqual(rate_stops_min([(0.0, 9.0), (12.0, 8.9)]), -0.5)
        with self.assertRaises(BadInput):
            rate_stops_min([(0.0, 9.0), (11.9, 8.9)])

    def test_a_patch_of_the_neutral_gives_its_own_level_whatever_the_camera(self):
        draw = np.random.default_rng(7)
        for _ in range(20):
            matrix = np.eye(3) + draw.uniform(-0.3, 0.3, (3, 3))
            white = draw.uniform(0.3, 1.0, 3)
            weights = luminance_weights(matrix, white)
            self.assertAlmostEqual(float(weights @ (white / white.max())), 1.0)
        for matrix, white in ((np.zeros((3, 3)), np.ones(3)), (np.eye(3), np.array([1, 0, 1]))):
            self.assertEqual(luminance_weights(matrix, white).tolist(), [0, 1, 0])

    def test_noise_without_a_floor_and_under_one(self):
        # Variance proportional to the mean: no read noise. A line under it: none to measure.
        self.assertEqual(photon_transfer([[164, 200], [264, 400]], 64).read_noise_e, 0.0)
        self.assertIsNone(photon_transfer([[164, 100], [264, 400]], 64).read_noise_e)
        self.assertIsNone(photon_transfer([[164, 400], [264, 200]], 64).read_noise_e)

    def test_a_horizon_goes_on_over_north(self):
        points = [HorizonPoint(350, 10), HorizonPoint(370, 20), HorizonPoint(180, 0)]
        self.assertAlmostEqual(float(hidden_below_deg(points, 0.0)), 15.0)
        self.assertAlmostEqual(float(hidden_below_deg(points, 95.0)), 10.0)
        self.assertEqual(float(hidden_below_deg([], 40.0)), 0.0)


class Words(unittest.TestCase):
    def test_takes_differ_by_stops_of_each_dial_and_in_all(self):
        first = TakenWith(50, 1 / 100, 1.8, lens="Main")
        other = TakenWith(200, 1 / 400, 2.6, lens="Long")
        reported = differences(first, other)
        self.assertIn("Long instead of Main", reported)
        self.assertIn("ISO 200 instead of 50: 2.0 stops more", reported)
        self.assertIn("1/400 s instead of 1/100 s: 2.0 stops less", reported)
        self.assertIn("f/2.6 instead of f/1.8: −1.1 stops", reported)
        self.assertIn("Total: 1.1 stops darker", reported)
        self.assertFalse(any("Total" in difference for difference in differences(first, first)))

    def test_bright_detail_is_never_missed_by_landing_darker(self):
        brief = ask_brief(WHERRY, readings=(PlacedReading("keep-bright", 12.0),))
        headroom = brief.mode.headroom_processed_stops
        dark = outcome(brief, [12.0])[0]
        self.assertEqual((dark.state, dark.misses_stops), (SpotState.AS_ASKED, 0.0))
        over = outcome(brief, [12.0 - headroom - 0.5])[0]
        self.assertEqual(over.state, SpotState.CLIPPED)
        self.assertAlmostEqual(over.misses_stops, 0.5)
        self.assertIn("clipped", over.words)

    def test_what_is_set_up_goes_by_the_run_and_by_what_holds_the_phone(self):
        def told(brief, shutter_s=None):
            return " / ".join(step.text for step in set_up_steps(brief, shutter_s))

        held, stood = Brief(WHERRY), Brief(WHERRY).asking(SUPPORT, "tripod")
        self.assertNotIn("Grid", told(held))
        self.assertIn("Grid on", told(stood))
        self.assertIn("Grid off", told(stood.asking(FOCUS, Focus(distance_m=0.2))))
        self.assertIn("Silence", told(stood, 5.0))
        self.assertNotIn("Silence", told(stood, 4.9))
        # Three frames of 1 s with two pauses of 1 s between them take 5 s.
        self.assertIn("Silence", told(stood.asking(FRAMES, Frames(3, gap_s=1.0)), 1.0))
        self.assertNotIn("Silence", told(stood.asking(FRAMES, Frames(3, gap_s=0.9)), 1.0))

    def test_more_pixels_are_not_advised_where_they_would_show_nothing(self):
        def advised(iso=50.0, **asked):
            brief = ask_brief(WHERRY, output=ask_output(*asked.pop("size", (8000, 6000))), **asked)
            return pixel_advice(brief, iso).reason

        # 8,000 × 6,000 px are 48 MP: the finer of the two modes, where anything comes of it.
        self.assertEqual(advised(support="tripod"), "it needs 48 MP")
        self.assertIn("shake", advised())
        self.assertIn("noise", advised(3200.0, support="tripod"))
        self.assertIn("motion", advised(freeze=(ask_freeze("dinghy", Mover(2.0, 10.0)),)))
        self.assertEqual(
            advised(support="tripod", size=(11_900, 8_400)),
            "it needs 100 MP, more than this lens has",
        )
        self.assertEqual(advised(size=(2000, 1500)), "it needs 3 MP")


class Edges(unittest.TestCase):
    def test_a_filter_is_from_one_to_ten_million(self):
        self.assertEqual(read_filter("×1").factor, 1.0)
        self.assertEqual(read_filter("×10000000").factor, 1e7)
        for words in ("×0.9", "×10000001", "ND"):
            with self.subTest(words), self.assertRaises(BadInput):
                read_filter(words)

    def test_a_battery_falls_over_some_time(self):
        found = battery(80, 60, 40)
        self.assertAlmostEqual(found.figures[0].value, 0.5)
        for wrong in ((60, 60, 40), (60, 80, 40), (80, 60, 0), (80, 60, -1)):
            with self.subTest(wrong), self.assertRaises(BadInput):
                battery(*wrong)

    def test_black_has_no_strongest_colour(self):
        self.assertEqual(channel_stops(np.zeros(3), 0.0), 0.0)
        self.assertEqual(channel_stops(np.array([0.2, 0.1, 0.1]), 0.0), 0.0)
        self.assertAlmostEqual(channel_stops(np.array([0.4, 0.1, 0.1]), 0.2), 1.0)
        self.assertEqual(channel_stops(np.array([0.1, 0.1, 0.1]), 0.2), 0.0)

    def test_no_dioptre_is_infinity(self):
        scale = SliderScale((SliderPoint(0, math.inf), SliderPoint(1, 0.5)))
        self.assertEqual(scale.distance_at_m(0), math.inf)
        self.assertAlmostEqual(scale.distance_at_m(1), 0.5)
