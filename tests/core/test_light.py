"""Laws of exposure, tones and placement, and of metering arrays of light."""

import unittest

import numpy as np

from oxlen.core.errors import OutOfRange
from oxlen.core.labels import shutter_label
from oxlen.core.light import exposure, placement
from oxlen.core.light.meter import Spot, Tones, disc_mask, sample_rows, spot_tone
from oxlen.core.light.reading import (
    LIGHT_LEVELS,
    combined_plus_minus,
    reading_from_auto,
    reading_from_level,
    reading_from_lux,
)
from oxlen.core.light.tone import linear_to_srgb, srgb_to_linear
from oxlen.core.sensor.raw_level import luminance_weights


class Exposure(unittest.TestCase):
    def test_one_stop_each_way(self):
        base = exposure.ev100(1.8, 0.01, 100)
        self.assertAlmostEqual(exposure.ev100(1.8, 0.005, 100) - base, 1)
        self.assertAlmostEqual(exposure.ev100(1.8, 0.01, 200) - base, -1)

    def test_array_equals_scalar(self):
        times = np.array([0.001, 0.1, 4.0])
        got = exposure.ev100(1.8, times, 100)
        np.testing.assert_allclose(got, [exposure.ev100(1.8, t, 100) for t in times])

    def test_shutter_for_ev_undoes_ev(self):
        t = exposure.shutter_for_ev100(9.3, 2.2, 400)
        self.assertAlmostEqual(exposure.ev100(2.2, t, 400), 9.3)

    def test_refuses_what_no_camera_has(self):
        for bad in (0, -1, float("nan"), float("inf")):
            with self.subTest(bad), self.assertRaisesRegex(OutOfRange, "iso"):
                exposure.ev100(1.8, 0.01, bad)


class Tone(unittest.TestCase):
    def test_curve_there_and_back(self):
        codes = np.arange(256) / 255
        np.testing.assert_allclose(linear_to_srgb(srgb_to_linear(codes)), codes, atol=1e-6)

    def test_headroom_shrinks_below_base_iso(self):
        got = placement.headroom_at_iso(3.0, iso=np.array([25, 50, 100, 400]), base_iso=100)
        np.testing.assert_allclose(got, [1, 2, 3, 3])

    def test_white_patch_keeps_its_level_through_any_matrix(self):
        matrix = np.array([[0.9, -0.2, -0.1], [-0.4, 1.2, 0.15], [-0.05, 0.2, 0.6]])
        neutral = np.array([0.5, 1.0, 0.6])
        self.assertAlmostEqual(float(luminance_weights(matrix, neutral) @ (0.3 * neutral)), 0.3)

    def test_a_broken_matrix_falls_back_on_green(self):
        np.testing.assert_allclose(luminance_weights(np.zeros((3, 3)), np.ones(3)), [0, 1, 0])


class Metering(unittest.TestCase):
    def test_disc_covers_its_area(self):
        mask = disc_mask(Spot("a", 0.5, 0.5, r=0.25), 400, 300)
        self.assertAlmostEqual(mask.sum() / (np.pi * 75**2), 1, delta=0.01)

    def test_smallest_disc_in_a_corner_is_one_pixel(self):
        self.assertEqual(disc_mask(Spot("a", 1.0, 1.0, r=0.0005), 10, 10).sum(), 1)

    def test_spot_off_the_picture(self):
        with self.assertRaisesRegex(OutOfRange, "x of spot hull"):
            Spot("hull", 1.2, 0.5)

    def test_states(self):
        values = np.full(100, 0.18)
        rows = [(0.005, 0, "ok"), (0.02, 0, "clipped"), (0, 0.4, "ok"), (0, 0.6, "blocked")]
        for clipped, blocked, state in rows:
            self.assertEqual(spot_tone(Tones(values, clipped, blocked)).state, state)

    def test_sampled_rows_are_even_and_in_step_with_nothing(self):
        rows = sample_rows(3000, 250)
        self.assertEqual(len(np.unique(rows)), 250)
        self.assertTrue(np.all(np.diff(rows) > 0))
        for period in (2, 3, 4, 8, 12):
            share = np.bincount(rows % period, minlength=period) / 250
            np.testing.assert_allclose(share, 1 / period, atol=0.02)


class Readings(unittest.TestCase):
    def test_levels_run_from_bright_to_dark(self):
        values = [level.ev100 for level in LIGHT_LEVELS]
        self.assertEqual(values, sorted(values, reverse=True))
        self.assertEqual(reading_from_level("sun").ev100, 15.0)

    def test_auto_numbers_and_lux(self):
        self.assertAlmostEqual(
            reading_from_auto(exposure.ExposureSettings(100, 1 / 125, 16)).ev100, 14.97, places=2
        )
        self.assertAlmostEqual(reading_from_lux(81920).ev100, 15.0)

    def test_doubts_add_in_squares(self):
        self.assertAlmostEqual(combined_plus_minus(0.6, 0.8), 1.0)


class Labels(unittest.TestCase):
    def test_shutters_as_people_say_them(self):
        rows = {
            1 / 12000: "1/12000 s",
            0.016666667: "1/60 s",
            0.125: "1/8 s",
            0.3: "0.3 s",
            1 / 3: "1/3 s",
            0.6: "0.6 s",
            1.3: "1.3 s",
            30: "30 s",
            90: "1 min 30 s",
        }
        for value, words in rows.items():
            self.assertEqual(shutter_label(value), words)
