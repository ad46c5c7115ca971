"""Figures worked a second way: by another library, by trying, or by looking at every case."""

import unittest

import numpy as np
from scipy.ndimage import median_filter

from oxlen.core.frames.combine import combined
from oxlen.core.frames.gain import noise_gain_stops, set_gain
from oxlen.core.frames.hot_pixels import hot_pixels, mended
from oxlen.core.kit.white_dial import WhiteDial
from oxlen.core.labels import shutter_label, time_label
from oxlen.core.sky.horizon import Glow, glow_stops


class Gains(unittest.TestCase):
    def test_what_frames_gain_is_what_drawn_noise_shows(self):
        draw = np.random.default_rng(2)
        for how in ("mean", "median", "sigma-clip"):
            for count in (1, 2, 3, 4, 6, 9, 25):
                frames = draw.normal(0.5, 0.01, (count, 120, 120)).astype(np.float32)
                left = float(np.std(combined(frames, how)))
                gained = float(np.log2(0.01 / left))
                with self.subTest(how, frames=count):
                    self.assertAlmostEqual(noise_gain_stops(how, count), gained, delta=0.03)
        self.assertEqual([noise_gain_stops(how, 9) for how in ("lighten", "darken")], [0, 0])
        self.assertAlmostEqual(noise_gain_stops("add", 9), np.log2(3))

    def test_a_stack_lasts_as_long_as_its_frames_and_the_gaps_between_them(self):
        found = set_gain("mean", [2.0, 2.0, 4.0], gap_s=0.5)
        self.assertEqual((found.light_s, found.time_s), (8.0, 9.0))
        self.assertEqual(set_gain("mean", [2.0], gap_s=0.5).time_s, 2.0)
        self.assertEqual(set_gain("mean", [2.0, 2.0], gap_s=0.5, elapsed_s=7.0).time_s, 7.0)
        self.assertEqual(set_gain("add", [2.0] * 4).virtual_nd_stops, 0.0)
        self.assertEqual(set_gain("median", [2.0] * 4).virtual_nd_stops, 2.0)


class HotPixels(unittest.TestCase):
    def frame(self):
        draw = np.random.default_rng(3)
        return draw.normal(1000, 4, (40, 60)).astype(np.uint16)

    def test_those_that_stand_out_are_found_and_no_other(self):
        dark = self.frame()
        wanted = np.zeros(dark.shape, dtype=bool)
        for row, column in ((5, 7), (20, 31), (33, 58)):
            dark[row, column] += 900
            wanted[row, column] = True
        dark[10, 10] += 120  # less than a hundredth of white
        np.testing.assert_array_equal(hot_pixels(dark, 16383), wanted)
        colour = np.stack([self.frame(), dark, self.frame()], axis=2)
        np.testing.assert_array_equal(hot_pixels(colour, 16383), wanted)

    def test_they_become_the_median_of_their_own_colour(self):
        values, hot = self.frame(), np.zeros((40, 60), dtype=bool)
        values[1::2, :] += 3000  # rows of another colour
        values[20, 30], values[21, 31] = 16000, 16000
        hot[20, 30] = hot[21, 31] = True
        found = mended(values, hot, mosaic=True)
        for row, column in ((20, 30), (21, 31)):
            own = values[row % 2 :: 2, column % 2 :: 2]
            middle = median_filter(own, 3, mode="nearest")[row // 2, column // 2]
            self.assertEqual(found[row, column], middle)
        np.testing.assert_array_equal(found[~hot], values[~hot])
        plain = mended(self.frame(), hot, mosaic=False)
        self.assertEqual(plain[20, 30], median_filter(self.frame(), 3)[20, 30])


class Dials(unittest.TestCase):
    def test_the_nearest_setting_is_nearest_of_all_in_mired(self):
        draw = np.random.default_rng(4)
        for case in range(60):
            low, step = float(draw.integers(18, 30)) * 100, float(draw.choice([50, 100, 250, 500]))
            dial = WhiteDial(low, low + step * int(draw.integers(1, 60)), step)
            wanted = float(draw.uniform(1800, 12_000))
            found = dial.nearest(wanted)
            off = {item: abs(1e6 / item - 1e6 / wanted) for item in dial.steps_k}
            with self.subTest(case):
                self.assertAlmostEqual(off[found.dial_k], min(off.values()))
                self.assertAlmostEqual(found.residual_mired, 1e6 / wanted - 1e6 / found.dial_k)
                gaps = [1e6 / a - 1e6 / b for a, b in zip(dial.steps_k, dial.steps_k[1:])]  # noqa: B905
                self.assertAlmostEqual(dial.coarsest_mired, max(gaps))
        self.assertEqual(WhiteDial(5000, 5000, 100).coarsest_mired, 0.0)
        self.assertEqual(WhiteDial(2300, 2800, 250).steps_k, (2300, 2550, 2800))


class Labels(unittest.TestCase):
    def test_a_label_read_again_is_the_time(self):
        ladder = np.geomspace(1 / 12000, 1800, 300)
        for label, most_off in ((shutter_label, 0.05), (time_label, 0.06)):
            for time_s in ladder:
                with self.subTest(label=label.__name__, time_s=time_s):
                    again = seconds(label(float(time_s)))
                    self.assertAlmostEqual(again / time_s, 1, delta=most_off)
        reported = [
            shutter_label(step) for step in (1 / 3, 0.29, 0.3, 9.96, 10.4, 59.4, 60, 61, 1 / 9.5)
        ]
        wanted = ["1/3 s", "0.29 s", "0.3 s", "10 s", "10 s", "59 s", "1 min", "1 min 1 s"]
        self.assertEqual(reported, [*wanted, "1/9.5 s"])


def seconds(label):
    """The time that a label tells."""
    minutes, _, rest = label.rpartition(" min")
    rest = rest.removesuffix(" s").strip()
    above, _, below = rest.partition("/")
    return 60 * float(minutes or 0) + (float(above or 0) / float(below or 1))


class Towns(unittest.TestCase):
    def test_two_towns_add_their_light_and_each_fades_away_from_it(self):
        town = Glow(90.0, 2.0)
        near = [float(glow_stops([town], bearing, 0.0)) for bearing in (90, 110, 140, 270)]
        self.assertEqual(near, sorted(near, reverse=True))
        self.assertAlmostEqual(near[0], 2.0)
        both = float(glow_stops([town, Glow(90.0, 2.0)], 90.0, 0.0))
        self.assertGreaterEqual(both, near[0])
