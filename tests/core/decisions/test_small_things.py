"""A small subject on each lens: the distance, how large it is drawn, and which way is best."""

import unittest
from dataclasses import replace

from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.small_things import FILLS, small_thing_ways
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.kit.clip_on import ClipOn
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
TEN = ClipOn("Ten dioptres", 10.0, lens="main")


def ways(thing_mm, at_hand=()):
    brief = ask_brief(WHERRY, readings=[PlacedReading("subject", 8.0)], support="tripod")
    asked = brief.asking(FOCUS, replace(brief[FOCUS], thing_mm=thing_mm))
    return small_thing_ways(replace(asked, clip_ons_at_hand=at_hand))


def best(thing_mm):
    return next(way.way for way in ways(thing_mm) if way.best)


class SmallThings(unittest.TestCase):
    def test_the_smallest_go_to_the_lens_that_comes_nearest_larger_ones_to_a_longer(self):
        # A cleat pin, a varnish tin's lid, a ship's lamp: from so near a wide lens pulls its ends.
        self.assertEqual([best(2), best(60), best(200)], ["Ultra-wide", "Main", "Long"])

    def test_what_would_not_fit_is_stepped_back_from_until_it_does(self):
        for way in ways(200):
            self.assertAlmostEqual(way.of_frame, FILLS, places=6)
        # At a magnification m a thin lens works at f·(1 + 1/m)..
        main = next(way for way in ways(200) if way.way == "Main")
        lens = next(item for item in WHERRY.lenses if item.id == "main")
        m = FILLS * lens.modes[0].sensor_mm[0] / 200
        self.assertAlmostEqual(main.distance_m, lens.focal_mm * (1 + 1 / m) / 1000, delta=0.01)

    def test_twice_the_thing_is_drawn_twice_as_large_from_the_same_place(self):
        for small, large in zip(
            sorted(ways(2), key=lambda way: way.way),
            sorted(ways(4), key=lambda way: way.way),
            strict=True,
        ):
            self.assertEqual(small.distance_m, large.distance_m)
            self.assertAlmostEqual(large.across_px / small.across_px, 2.0)
            self.assertEqual(small.depth_mm, large.depth_mm)

    def test_a_clip_on_is_tried_on_its_own_lens_alone(self):
        names = {way.way for way in ways(5, (TEN,))}
        self.assertEqual({name for name in names if "Ten" in name}, {"Main with “Ten dioptres”"})
        anywhere = {way.way for way in ways(5, (replace(TEN, lens=""),))}
        self.assertEqual(sum("Ten" in name for name in anywhere), len(WHERRY.lenses))


if __name__ == "__main__":
    unittest.main()
