"""A take of a shop series against its reference: what was planted is measured and named."""

import contextlib
import io
import unittest
import warnings

import numpy as np

from oxlen.core.colour.difference import delta_e_2000, lab_of_linear
from oxlen.core.light.meter import Spot
from oxlen.core.series.comparing import series_difference
from oxlen.core.series.look import series_look
from oxlen.core.series.thing import thing_in
from oxlen.devices.standins.bench_series import GREY_PATCH, Bench, Mistake

with warnings.catch_warnings(), contextlib.redirect_stderr(io.StringIO()):
    warnings.simplefilter("ignore")  # it misses drawing packages, which nobody needs here
    import colour

GREY = Spot("grey", GREY_PATCH[0], GREY_PATCH[1], r=GREY_PATCH[2])
BENCH = Bench(31)


class ColourDifference(unittest.TestCase):
    def test_as_colour_science_has_it(self):
        draw = np.random.default_rng(31)
        low, high = np.array([0, -90, -90]), np.array([100, 90, 90])
        pairs = draw.uniform(low, high, (200, 2, 3))
        pairs[::4, 1] = pairs[::4, 0] + draw.normal(0, 1, (50, 3))
        pairs[0, :, 1:] = 0  # two greys
        for first, second in pairs:
            with self.subTest(first=first, second=second):
                wanted = float(colour.difference.delta_E_CIE2000(first, second))
                self.assertAlmostEqual(delta_e_2000(first, second), wanted, places=6)

    def test_lab_of_linear_srgb(self):
        for linear in ([0.2, 0.5, 0.1], [0.001, 0.0005, 0.002], [1.0, 1.0, 1.0]):
            xyz = colour.models.RGB_COLOURSPACE_sRGB.matrix_RGB_to_XYZ @ np.array(linear)
            wanted = colour.XYZ_to_Lab(xyz, np.array([0.3127, 0.3290]))
            np.testing.assert_allclose(lab_of_linear(np.array(linear)), wanted, atol=0.05)


class Planted(unittest.TestCase):
    reference = series_look(BENCH.take(0), GREY)

    def found(self, number=1, *, grey=GREY, **mistake):
        look = series_look(BENCH.take(number, Mistake(**mistake)), grey)
        return series_difference(look, self.reference)

    def test_a_take_like_the_reference_matches_whatever_its_label(self):
        for number in range(1, 7):
            found = self.found(number)
            with self.subTest(number=number):
                self.assertEqual((found.verdict, found.reasons), ("matches", ()))
                self.assertAlmostEqual(found.exposure_stops, 0, delta=0.03)
                self.assertAlmostEqual(found.scale, 1, delta=0.012)

    def test_light_is_measured_with_and_without_a_card(self):
        for grey in (GREY, None):
            brighter = self.found(grey=grey, stops=0.3)
            self.assertAlmostEqual(brighter.exposure_stops, 0.3, delta=0.03)
            self.assertEqual(brighter.reasons, ("exposure",))
            warmer = self.found(2, grey=grey, mired=25)
            self.assertAlmostEqual(warmer.mired, 25, delta=3)
            self.assertLess(abs(warmer.tint), 0.003)
            self.assertEqual(warmer.reasons, ("colour",))

    def test_the_place_is_measured_and_a_bump_is_no_other_background(self):
        for tilt_deg in (-2.5, 1.2):
            found = self.found(3, tilt_deg=tilt_deg)
            self.assertAlmostEqual(found.tilt_deg, tilt_deg, delta=0.2)
            self.assertEqual(found.reasons, ("tilt",))
        larger = self.found(4, scale=1.06)
        self.assertAlmostEqual(larger.scale, 1.06, delta=0.01)
        self.assertEqual(larger.reasons, ("scale",))
        aside = self.found(5, shift=0.08)
        self.assertAlmostEqual(aside.shift, 0.08, delta=0.006)
        self.assertEqual(aside.reasons, ("shift",))

    def test_soft_and_shiny_things_are_named(self):
        self.assertEqual(self.found(blur_px=2.5).reasons, ("sharpness",))
        shiny = self.found(gloss=0.25)
        self.assertEqual(shiny.reasons, ("clipped",))
        self.assertGreater(shiny.clipped_share, 0.01)

    def test_dirt_on_the_background_is_seen(self):
        codes = BENCH.take(2)
        codes[80:88, 600:608] = 60
        found = series_difference(series_look(codes, GREY), self.reference)
        self.assertEqual((found.specks, found.reasons), (1, ("background",)))

    def test_a_round_thing_has_no_tilt_and_a_busy_background_no_thing(self):
        rows, columns = np.indices((300, 400))
        disc = np.full((300, 400, 3), 190, np.uint8)
        disc[np.hypot(rows - 150, columns - 200) < 70] = (120, 40, 30)
        look = series_look(disc)
        found = series_difference(look, look)
        self.assertIsNone(found.tilt_deg)
        self.assertAlmostEqual(found.scale, 1, delta=0.002)
        busy = np.random.default_rng(1).integers(0, 255, (300, 400, 3)).astype(np.uint8)
        self.assertIsNone(thing_in(busy))
        self.assertEqual(series_difference(series_look(busy), look).verdict, "not judged")


if __name__ == "__main__":
    unittest.main()
