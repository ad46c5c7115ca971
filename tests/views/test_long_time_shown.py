"""What each time of the long axis shows: laws of it, whatever the light and the look."""

import math
import re
import unittest

from oxlen.core.decisions.exposure.ask import DRAWING, LOOKS
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.views.long_time import long_time
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
SOFT = ShownMotion(subject="sluice", look="soft")
BOAT = ShownMotion(name="boat", speed_m_s=2.0, distance_m=30.0, width_m=6.0, look="vanish")


def shown(look, ev100, *more):
    made = ask_brief(WHERRY, readings=[PlacedReading("subject", ev100)], support="tripod")
    made = made.asking(LOOKS, (look,))
    for ask, value in more:
        made = made.asking(ask, value)
    return long_time(made)[0]


def numbers(view, pattern):
    """A number out of each sample's words, with its time, where it has one."""
    found = [(sample.time_s, re.search(pattern, " ".join(sample.words))) for sample in view.samples]
    return [(time_s, float(hit[1])) for time_s, hit in found if hit]


class Samples(unittest.TestCase):
    def test_no_iso_is_raised_further_than_the_phone_has(self):
        # ISO 50 to 3200 are six stops; what is darker is reported as too dark, by how much.
        for ev100 in (-3.0, 2.0, 8.0):
            view = shown(SOFT, ev100)
            raised = numbers(view, r"raised by ([\d.]+)")
            self.assertTrue(all(stops <= 6.05 for _, stops in raised))
            dark = numbers(view, r"Too dark: ([\d.]+)")
            self.assertEqual(bool(dark), ev100 < 8.0)
            if dark:
                self.assertLess(max(at for at, _ in dark), min(at for at, _ in raised))
                twice = [stops for _, stops in dark]
                self.assertEqual(twice, sorted(twice, reverse=True))

    def test_twice_the_time_needs_a_stop_more_glass(self):
        glass = dict(numbers(shown(SOFT, 12.0), r"ND of ([\d.]+) stops"))
        self.assertGreater(len(glass), 20)
        times = sorted(glass)
        for early, late in zip(times, times[9:], strict=False):
            # Both numbers are rounded to a tenth.
            longer_stops = math.log2(late / early)
            self.assertAlmostEqual(glass[late] - glass[early], longer_stops, delta=0.11)

    def test_less_of_what_crosses_is_left_the_longer_it_lasts_until_it_is_gone(self):
        view = shown(BOAT, 9.0)
        left = [share for _, share in numbers(view, r"Boat: ([\d.]+) % of it is still visible")]
        self.assertGreater(len(left), 5)
        self.assertEqual(left, sorted(left, reverse=True))
        gone = [sample.time_s for sample in view.samples if "Boat: gone" in sample.words]
        lane = next(way for way in view.lanes if way.name == "It disappears")
        self.assertLess(abs(min(gone) / lane.from_s - 1), 0.15)
        self.assertEqual(len(gone), sum(sample.time_s >= min(gone) for sample in view.samples))

    def test_the_ground_of_a_drawing_rises_by_a_stop_with_twice_the_time(self):
        # L = 12.5·2^EV/100; at f/1.8 and ISO 50 the background is 6 stops under after t_black.
        drawing = (DRAWING, Drawing(ambient_black_stops=-6.0))
        view = shown(BOAT, -4.0, drawing)
        lane = next(way for way in view.lanes if way.kind == "backdrop")
        # EV −4 at f/1.8, ISO 50: mid after 1.8²/2^−4·2 = 103.7 s, six stops less is 1.62 s.
        self.assertAlmostEqual(lane.to_s, 103.68 / 64, delta=0.02)
        at_mid = [sample for sample in view.samples if "over mid" in " ".join(sample.words)]
        self.assertGreater(min(way.time_s for way in at_mid), 100.0)


if __name__ == "__main__":
    unittest.main()
