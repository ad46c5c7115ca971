"""Takes made to match: what is left of light, colour and place, and that nothing new clips."""

import unittest

import numpy as np

from oxlen.core.series.comparing import series_difference
from oxlen.core.series.look import series_look
from oxlen.core.series.matching import matched, recipe, with_common_crop
from oxlen.devices.standins.bench_series import Bench, Mistake

BENCH = Bench(12)
WRONG = (
    Mistake(),
    Mistake(stops=-0.6),
    Mistake(stops=0.4, mired=-20),
    Mistake(mired=45),
    Mistake(tilt_deg=2.5),
    Mistake(scale=0.93),
    Mistake(shift=0.06),
)


def series_made():
    """Codes, recipes and matched codes of the series."""
    codes = [BENCH.take(number, wrong) for number, wrong in enumerate(WRONG)]
    looks = [series_look(each) for each in codes]
    found = [series_difference(look, looks[0]) for look in looks]
    asked = [recipe(each, look, looks[0]) for each, look in zip(found, looks, strict=True)]
    recipes = with_common_crop(filter(None, asked), codes[0].shape[:2])
    return codes, recipes, [matched(*pair) for pair in zip(codes, recipes, strict=True)]


class Matching(unittest.TestCase):
    codes, recipes, made = series_made()

    def test_what_is_left_is_less_than_a_buyer_sees(self):
        looks = [series_look(each) for each in self.made]
        for number, look in enumerate(looks[1:], start=1):
            left = series_difference(look, looks[0])
            with self.subTest(WRONG[number]):
                self.assertLessEqual(abs(left.exposure_stops), 0.08)
                self.assertLessEqual(left.delta_e, 1.0)
                self.assertLessEqual(abs(left.scale - 1), 0.01)
                self.assertLessEqual(abs(left.tilt_deg), 0.2)
                self.assertLessEqual(left.shift, 0.01)
                self.assertEqual(left.verdict, "matches", left.reasons)

    def test_all_have_one_size_and_no_empty_corner(self):
        self.assertEqual(len({each.shape for each in self.made}), 1)
        self.assertEqual(len({how.crop for how in self.recipes}), 1)
        self.assertLess(self.recipes[0].crop[0], 0.1)
        corners = np.array([each[:4, :4].mean() for each in self.made])
        self.assertLess(np.ptp(corners), 6)

    def test_nothing_of_the_thing_clips_that_had_not(self):
        codes = BENCH.take(1, Mistake(stops=-1.2))
        rows, columns = slice(280, 300), slice(390, 410)
        codes[rows, columns] = 190  # a bright label: two stops lighter it would be white
        dark, reference = series_look(codes), series_look(self.codes[0])
        how = recipe(series_difference(dark, reference), dark, reference)
        self.assertGreater(how.held_stops, 0.2)
        made = matched(codes, how)
        self.assertLess(int(made[200:400, 300:500].max()), 250)


if __name__ == "__main__":
    unittest.main()
