"""When a slider's scale asks to be measured again."""

import math
import unittest
from datetime import date

from oxlen.core.focus.slider import SliderPoint, SliderScale
from oxlen.core.kit.focus_drive import NamedScale
from oxlen.views.recheck import recheck_words


class Recheck(unittest.TestCase):
    def test_an_old_scale_or_new_software_asks_for_a_check(self):
        points = (
            SliderPoint(0, 0.1, date="2026-01-02"),
            SliderPoint(1, math.inf, date="2026-03-02"),
        )
        named = NamedScale(SliderScale(points), software="7.2")
        self.assertEqual(recheck_words(named, date(2027, 1, 2), "7.2"), "")
        self.assertIn("more than a year", recheck_words(named, date(2027, 1, 3)))
        self.assertIn("now has 7.3", recheck_words(named, date(2026, 4, 1), "7.3"))
