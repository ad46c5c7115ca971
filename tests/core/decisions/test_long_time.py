"""Ways to a long exposure: each solved as a whole, those that do not reach it with the reason."""

import unittest

from oxlen.core.decisions.exposure.ask import LENS_FILTERS, LOOKS
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.long_exposure.time_shown import has_vanished
from oxlen.core.long_exposure.ways import wanted_time, ways
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.views.long_time import long_time
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
SOFT = ShownMotion(subject="sluice", look="soft")
BOAT = ShownMotion(name="boat", speed_m_s=2.0, distance_m=30.0, width_m=6.0, look="vanish")
KIT = (LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0))


def brief_of(look, ev100, *, kit=KIT):
    made = ask_brief(
        WHERRY, readings=[PlacedReading("subject", ev100)], support="tripod", glass_at_hand=kit
    )
    return made.asking(LOOKS, (look,))


class WaysToATime(unittest.TestCase):
    def test_every_way_that_reaches_it_lies_within_the_look_and_keeps_every_limit(self):
        for ev100 in (4.0, 7.0, 10.0, 13.0):
            brief = brief_of(SOFT, ev100)
            wanted, found = wanted_time(brief), ways(brief)
            reaching = [route for route in found if route.reaches]
            self.assertTrue(reaching, ev100)
            for route in reaching:
                with self.subTest(ev100=ev100, way=route.id):
                    if route.lens == brief.lens.name:
                        self.assertGreaterEqual(route.elapsed_s, 0.95 * wanted.low_s)
                        self.assertLessEqual(route.elapsed_s, 1.05 * wanted.high_s)
                    again = plan(route.brief)
                    self.assertIsNone(again.conflict)
                    self.assertEqual(again.slip.shutter_s, route.shutter_s)
            self.assertEqual(found[: len(reaching)], tuple(reaching))

    def test_frames_with_gaps_that_show_copies_are_refused_with_that_reason(self):
        frames = next(way for way in ways(brief_of(SOFT, 13.0)) if way.id == "frames")
        self.assertFalse(frames.reaches)
        self.assertIn("copies of", frames.why_not)

    def test_glass_of_the_kit_goes_before_what_would_have_to_be_bought(self):
        by_kit = next(way for way in ways(brief_of(SOFT, 11.0)) if way.id == "glass")
        self.assertEqual(by_kit.carry, "your own")
        self.assertEqual([filter.name for filter in by_kit.brief[LENS_FILTERS]], ["ND 1000"])
        bought = next(way for way in ways(brief_of(SOFT, 11.0, kit=())) if way.id == "glass")
        self.assertIn("not in your kit", bought.carry)

    def test_a_weak_filter_and_frames_together_reach_what_neither_does(self):
        brief = brief_of(BOAT, 8.0, kit=(LensFilter("ND 16", 16.0),))
        both = {way.id: way for way in ways(brief)}
        self.assertFalse(both["one"].reaches)
        through = both["glass-frames"]
        self.assertTrue(through.reaches, through.why_not)
        self.assertEqual([filter.name for filter in through.brief[LENS_FILTERS]], ["ND 16"])
        self.assertTrue(has_vanished(through.left_share))
        self.assertLess(through.frames, both["frames"].frames)

    def test_the_phones_own_filter_says_where_it_ends(self):
        found = {way.id: way for way in ways(brief_of(SOFT, 13.0))}
        self.assertIn("starts at 0.5 s", found["phone-filter"].why_not)
        dimmer = {way.id: way for way in ways(brief_of(SOFT, 7.5))}
        self.assertTrue(dimmer["phone-filter"].reaches, dimmer["phone-filter"].why_not)
        self.assertIn("processed", dimmer["phone-filter"].carry)

    def test_without_a_look_there_is_nothing_to_compare(self):
        view, found = long_time(ask_brief(WHERRY, readings=[PlacedReading("subject", 9.0)]))
        self.assertEqual((view.ways, found), ([], ()))

    def test_the_axis_names_what_shows_when(self):
        view, _ = long_time(brief_of(SOFT, 9.0))
        names = [lane.name for lane in view.lanes]
        self.assertEqual(names[:4], ["Wanted", "Texture", "Soft", "Mirror-smooth"])
        soft = view.lanes[2]
        self.assertAlmostEqual(soft.from_s, view.wanted_low_s, delta=0.01)
        late = next(sample for sample in view.samples if sample.time_s > 60)
        self.assertIn("times the frame’s height", late.words[0])
        gone, _ = long_time(brief_of(BOAT, 9.0))
        self.assertIn("still visible", gone.samples[40].words[0])
        self.assertIn("gone", gone.samples[-1].words[0])
