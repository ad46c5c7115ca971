"""Measurements of simulated phones whose true figures are chosen here."""

import math
import unittest

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.measures.bands import bands_in
from oxlen.core.measures.computed_run import column_tops, dashes
from oxlen.core.measures.headroom import WallFrame, headroom
from oxlen.core.measures.level import battery, file_weight, kelvin_dial
from oxlen.core.measures.pace import Stamp, pace

THIRDS = [third / 3 for third in range(-12, 16)]


def bracket(gamma=1.0, raw_stops=None, steps=THIRDS):
    """A wall whose processed files hold 0.18 at 0 stops and follow a power of the light."""
    found = [WallFrame(x, min(1.0, 0.18 * 2.0 ** (gamma * x)), False) for x in steps]
    if raw_stops is not None:
        found += [WallFrame(x, min(1.0, 2.0 ** (x - raw_stops)), True) for x in steps]
    return found


class Headroom(unittest.TestCase):
    def test_a_straight_file_has_log2_of_one_over_mid(self):
        made = headroom(bracket()).figures[0]
        self.assertAlmostEqual(made.value, math.log2(1 / 0.18), places=6)  # 2.474
        self.assertLess(made.plus_minus, 0.06)

    def test_a_flatter_curve_holds_more_and_raw_tells_its_own_white(self):
        processed, raw = headroom(bracket(gamma=0.8, raw_stops=3.1)).figures
        self.assertAlmostEqual(processed.value, math.log2(1 / 0.18) / 0.8, places=6)
        self.assertAlmostEqual(raw.value, 3.1, places=6)

    def test_a_bracket_that_stops_short_is_told_which_way_to_go_on(self):
        rows = [
            ([x for x in THIRDS if x < -1], "mid grey. Continue brighter"),
            ([x for x in THIRDS if x > 1], "mid grey. Continue darker"),
            ([x for x in THIRDS if x < 2], "white. Continue brighter"),
        ]
        for steps, words in rows:
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                headroom(bracket(steps=steps))


class Bands(unittest.TestCase):
    def test_the_number_of_bands_and_their_depth_come_back(self):
        draw = np.random.default_rng(2)
        at = (np.arange(600) + 0.5) / 600
        for count, depth in ((2.4, 0.2), (7.0, 0.05), (15.6, 0.3)):
            profiles = [
                (1 + 0.2 * (at - 0.5)) * (1 + depth * np.sin(2 * np.pi * count * at + phase))
                + draw.normal(0, 0.002, at.size)
                for phase in (0.0, 2.1, 4.4)
            ]
            found = bands_in([profile.tolist() for profile in profiles])
            with self.subTest(count):
                self.assertAlmostEqual(found.count, count, delta=max(0.01, found.plus_minus))
                self.assertLess(found.plus_minus, 0.02 * count + 0.02)
                self.assertAlmostEqual(found.depth, depth, delta=0.05 * depth)

    def test_a_steady_lamp_has_none(self):
        even = np.random.default_rng(3).normal(1, 0.002, 600)
        with self.assertRaisesRegex(BadInput, "No flicker bands"):
            bands_in([even.tolist()])


class Pace(unittest.TestCase):
    def stamps(self, gaps, shutter_s=0.1, first_s=100.0):
        starts = first_s + np.concatenate([[0.0], np.cumsum(np.asarray(gaps) + shutter_s)])
        return [Stamp(float(at) % 86_400, shutter_s) for at in starts]

    def figures(self, stamps):
        return {figure.name: figure.value for figure in pace(stamps).figures}

    def test_gaps_and_frames_a_second_over_midnight_too(self):
        for first_s in (100.0, 86_399.0):
            found = self.figures(self.stamps([0.15] * 9, first_s=first_s))
            self.assertAlmostEqual(found["files.frame_gap_s"], 0.15, places=6)
            self.assertAlmostEqual(found["files.processed_fps"], 4.0, places=6)
            self.assertNotIn("files.processed_burst", found)

    def test_a_burst_that_stalls_says_after_how_many(self):
        found = self.figures(self.stamps([0.15] * 6 + [1.4, 1.4]))
        self.assertEqual(found["files.processed_burst"], 7.0)
        self.assertAlmostEqual(found["files.frame_gap_s"], 0.15, places=6)

    def test_too_few_and_copies_are_refused(self):
        with self.assertRaisesRegex(BadInput, "four frames"):
            pace(self.stamps([0.1, 0.1]))
        with self.assertRaisesRegex(BadInput, "copies"):
            pace([Stamp(5.0, 0.1)] * 5)


class Levels(unittest.TestCase):
    def test_a_dial_is_off_by_what_casts_exceed_what_they_should_be(self):
        made = kelvin_dial([12.0, 8.0, 10.0], [2.0, -2.0, 0.0])
        self.assertAlmostEqual(made.figures[0].value, 10.0)
        self.assertIn("10 mired warmer", made.words)
        self.assertEqual(made.doubts, ())
        far = kelvin_dial([70.0], [0.0])
        self.assertIn("+70 mired is a lot", far.doubts[0])
        self.assertIn("colder", kelvin_dial([-5.0], [0.0]).words)

    def test_a_files_weight_is_the_middle_one_and_a_battery_falls(self):
        self.assertEqual(file_weight([4.0, 5.0, 9.0], kind="raw").figures[0].value, 5.0)
        made = battery(80, 74, 12)
        self.assertAlmostEqual(made.figures[0].value, 0.5)
        self.assertIn("200 min", made.words)
        for start, end, minutes in ((74, 74, 12), (80, 74, 0)):
            with self.assertRaises(BadInput):
                battery(start, end, minutes)


class Dashes(unittest.TestCase):
    def test_ends_of_dashes_lie_where_the_light_is_half_as_bright(self):
        columns = np.full(400, 0.001)
        for first, last in ((40, 90), (120, 170), (200, 250)):
            columns[first:last] = 1.0
        found = dashes(columns.tolist())
        np.testing.assert_allclose(found, [(39.5, 89.5), (119.5, 169.5), (199.5, 249.5)], atol=0.51)
        lengths = [b - a for a, b in found]
        np.testing.assert_allclose(lengths, 50.0, atol=0.05)
        self.assertEqual(dashes(np.full(400, 0.5).tolist()), [])

    def test_columns_run_along_the_longer_side(self):
        picture = np.zeros((20, 60))
        picture[3, 10:30] = 1.0
        for turned in (picture, picture.T):
            self.assertEqual(np.flatnonzero(column_tops(turned)).tolist(), list(range(10, 30)))
