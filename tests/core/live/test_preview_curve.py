"""The preview's tone curve against seeded phones whose curves are known."""

import unittest

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.live.calibration import aged_plus_minus_stops
from oxlen.core.live.preview_curve import (
    BRIGHTEST_CODE,
    CODES,
    DARKEST_CODE,
    CurveStep,
    generic_curve,
    measured_curve,
)

SEEDS = range(30)
MID = 118 / 255


class Preview:
    """A phone's preview: a gamma, perhaps a shoulder, perhaps local tone mapping."""

    def __init__(self, seed):
        self.random = np.random.default_rng(seed)
        self.gamma = self.random.uniform(1.8, 2.6)
        self.knee = self.random.uniform(0.5, 0.9) if seed % 3 else None
        self.local = self.random.uniform(0.05, 0.25) if seed % 2 else 0.0

    def codes(self, stops):
        """Codes of tones so many stops from mid, as the global curve has them."""
        linear = 0.18 * np.exp2(stops)
        if self.knee is not None:
            room = 1.35 - self.knee
            over = np.maximum(linear - self.knee, 0)
            linear = np.where(
                linear < self.knee, linear, self.knee + room * (1 - np.exp(-over / room))
            )
        share = linear ** (1 / self.gamma) * MID / 0.18 ** (1 / self.gamma)
        return 255 * np.clip(share, 0, 1)

    def steps(self, offsets):
        """What a still scene of 108 cells shows at stepped exposures, noise and rounding in."""
        cells = np.clip(self.random.normal(0, 1.6, 108), -4, 3.2)
        around = 0.5 * (cells + cells.mean())
        found = []
        for offset in offsets:
            real = offset + self.random.normal(0, 0.015)
            seen = self.codes(cells + real - self.local * (around + real))
            noisy = np.clip(np.round(seen + self.random.normal(0, 0.4, seen.size)), 0, 255)
            found.append(CurveStep(float(offset), tuple(noisy)))
        return found


class MeasuredCurves(unittest.TestCase):
    def test_thirty_curves_are_found_and_their_doubt_covers_the_truth(self):
        stops, covered = np.linspace(-3, 3, 61), []
        for seed in SEEDS:
            phone = Preview(seed)
            curve = measured_curve(phone.steps(np.arange(-4, 4.1, 0.75)))
            # An even field is compressed by local tone mapping as a whole.
            codes = phone.codes((1 - phone.local) * stops)
            seen = (codes > DARKEST_CODE) & (codes < BRIGHTEST_CODE)
            off = np.interp(codes, CODES, curve.stops)[seen] - stops[seen]
            doubt = np.interp(codes, CODES, curve.doubt_stops)[seen]
            with self.subTest(seed=seed):
                self.assertLessEqual(np.abs(off).max(), 0.15)
                self.assertLess(doubt.max(), 0.15)
            covered.append(np.mean(np.abs(off) <= doubt))
        self.assertTrue(0.90 <= np.mean(covered) <= 0.99, np.mean(covered))

    def test_a_measured_curve_reads_better_than_the_assumed_one(self):
        phone = Preview(4)
        curve, stops = measured_curve(phone.steps(np.arange(-4, 4.1, 0.75))), np.array([-2.5])
        codes = phone.codes(stops)
        off = [abs(np.interp(codes, CODES, one.stops)[0] + 2.5) for one in (curve, generic_curve())]
        self.assertLess(off[0], off[1] / 3)

    def test_what_cannot_be_measured_is_refused(self):
        phone = Preview(1)
        good = phone.steps(np.arange(-4, 4.1, 0.75))
        moved = [CurveStep(step.stops, step.codes[::-1]) for step in good[::-1]]
        fallen = [CurveStep(-step.stops, step.codes) for step in good]
        for steps, words in (
            (good[:3], "at least 5 steps"),
            (phone.steps(np.linspace(0, 1, 6)), "under 3 stops"),
            (fallen, "phone moved"),
            ([CurveStep(step.stops, step.codes[:4]) for step in good], "same cells"),
            ([CurveStep(step.stops, (0.0,) * 108) for step in good], "Too few readable"),
        ):
            with self.subTest(words=words), self.assertRaisesRegex(BadInput, words):
                measured_curve(steps)
        # Mirrored in both, order and cells, it is the same scene.
        self.assertEqual(len(measured_curve(moved).stops), 256)

    def test_a_known_light_ages_and_is_dropped(self):
        self.assertAlmostEqual(aged_plus_minus_stops(0.3, 0), 0.3)
        self.assertAlmostEqual(aged_plus_minus_stops(0.0, 300), 0.3)  # 0.06 stop a minute
        self.assertIsNone(aged_plus_minus_stops(0.3, 1801))


if __name__ == "__main__":
    unittest.main()
