"""Drift over a series against single mistakes, and what becomes of a take."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.series.comparing import SeriesDifference
from oxlen.core.series.drift import drift_of
from oxlen.core.series.next_step import badness, next_step

MINUTES = 60.0 * np.arange(12)
GOOD = SeriesDifference(
    exposure_stops=0.02,
    delta_e=0.3,
    mired=0.5,
    tint=0.0,
    scale=1.0,
    shift=0.003,
    shift_xy=(0.003, 0.0),
    tilt_deg=0.1,
    sharpness=0.98,
    clipped_share=0.0,
    background_stops=0.02,
    specks=0,
    colour_delta_e=0.3,
    gains=(1.0, 1.0, 1.0),
    reasons=(),
)


class Drift(unittest.TestCase):
    def test_a_fading_window_is_a_line_and_one_mistake_is_none(self):
        draw = np.random.default_rng(3)
        noise = draw.normal(0, 0.02, 12)
        fading = drift_of(MINUTES, -0.5 * MINUTES / MINUTES[-1] + noise, seen=0.15)
        self.assertFalse(fading.is_steady)
        self.assertAlmostEqual(fading.change, -0.5, delta=0.05)
        self.assertEqual(fading.strays, ())
        one = noise.copy()
        one[7] -= 0.6
        alone = drift_of(MINUTES, one, seen=0.15)
        self.assertEqual((alone.is_steady, alone.strays), (True, (7,)))

    def test_both_at_once_are_told_apart(self):
        values = 12.0 * MINUTES / MINUTES[-1]
        values[4] += 40
        found = drift_of(MINUTES, values, seen=8.0)
        self.assertEqual((found.is_steady, found.strays), (False, (4,)))
        self.assertAlmostEqual(found.change, 12.0, delta=0.1)

    def test_order_of_takes_does_not_matter_and_few_say_nothing(self):
        values = 0.3 * MINUTES / MINUTES[-1]
        mixed = np.random.default_rng(1).permutation(12)
        found = drift_of(MINUTES[mixed], values[mixed], seen=0.15)
        self.assertAlmostEqual(found.change, 0.3, delta=1e-9)
        self.assertIsNone(drift_of(MINUTES[:4], values[:4], seen=0.15))
        self.assertIsNone(drift_of([5.0] * 9, values[:9], seen=0.15))


class NextStep(unittest.TestCase):
    def test_what_development_mends_is_matched_and_the_rest_is_shot_again(self):
        rows = (
            ({}, "keep"),
            ({"reasons": ("exposure", "tilt"), "exposure_stops": -0.7, "tilt_deg": 2}, "match"),
            ({"reasons": ("exposure",), "exposure_stops": -1.6}, "reshoot"),
            ({"reasons": ("scale",), "scale": 0.85}, "reshoot"),
            ({"reasons": ("colour", "sharpness"), "sharpness": 0.5}, "reshoot"),
            ({"exposure_stops": None}, "look"),
        )
        for given, wanted in rows:
            with self.subTest(given):
                self.assertEqual(next_step(replace(GOOD, **given)), wanted)
        self.assertEqual(next_step(None), "look")

    def test_badness_is_one_where_a_buyer_begins_to_see_it(self):
        self.assertLess(badness(GOOD), 0.3)
        self.assertAlmostEqual(badness(replace(GOOD, exposure_stops=-0.28)), 2.0, delta=0.01)
        self.assertAlmostEqual(badness(replace(GOOD, sharpness=0.49)), 2.0, delta=0.01)
        other = replace(GOOD, scale=0.5, same_shape=False)
        self.assertEqual(badness(other), badness(GOOD))
