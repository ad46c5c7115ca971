"""Why a slip is another than before: what was read or asked otherwise, and what each moved."""

import math
import unittest
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import LENS_FILTERS
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.why_changed import NOTHING, why_changed
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
ND64 = LensFilter("ND 64", 64.0)


def brief(*evs, names=("wall", "sky"), **asked):
    readings = [
        PlacedReading(role, ev, name=name)
        for role, ev, name in zip(("subject", "keep-bright"), evs, names, strict=False)
    ]
    return ask_brief(WHERRY, readings=readings, support="tripod", **asked)


class WhyChanged(unittest.TestCase):
    def test_less_light_alone_moves_the_shutter_by_as_much(self):
        found = why_changed(brief(10.0), brief(7.0))
        self.assertEqual([cause.words for cause in found.causes], ["the light is 3.0 stops weaker"])
        self.assertAlmostEqual(found.causes[0].moved_stops, 3.0, delta=0.17)
        self.assertRegex(
            found.sentence,
            r"^Shutter goes from 1/\d+ s to 1/\d+ s, because the light is 3.0 stops weaker",
        )

    def test_two_differences_are_told_apart_by_what_each_moves(self):
        found = why_changed(brief(10.0), brief(9.0).asking(LENS_FILTERS, (ND64,)))
        moved = {cause.words: cause.moved_stops for cause in found.causes}
        self.assertAlmostEqual(moved["the light is 1.0 stop weaker"], 1.0, delta=0.17)
        self.assertEqual(len(moved), 2)
        # The six stops of the filter move it most and come first.
        self.assertAlmostEqual(found.causes[0].moved_stops, 6.0, delta=0.17)

    def test_one_place_alone_is_named(self):
        found = why_changed(brief(10.0, 13.0), brief(10.0, 14.0))
        self.assertEqual(found.causes[0].words, "sky has 1.0 stop more light")

    def test_a_place_that_was_named_since_is_another_place(self):
        found = why_changed(brief(10.0, names=("",)), brief(8.0, names=("subject wall",)))
        self.assertEqual(found.causes[0].words, "other spots were read or wanted")
        self.assertTrue(found.lines)

    def test_the_same_asked_twice_is_the_same(self):
        self.assertEqual(why_changed(brief(10.0), brief(10.0)).sentence, NOTHING)

    def test_a_slip_that_is_lost_is_told_so(self):
        found = why_changed(brief(10.0), brief(10.0).asking(LENS, "long").lit(-40.0))
        self.assertEqual(
            found.sentence,
            "There is no slip now, because the light is 40.0 stops weaker and "
            "“Lens, fixed aperture” changed.",
        )
        self.assertEqual(found.causes[0].moved_stops, math.inf)

    def test_another_phone_is_a_cause_of_its_own(self):
        other = replace(brief(10.0), phone=shipped_profile("dabber").to_phone())
        found = why_changed(brief(10.0), other)
        self.assertEqual([cause.words for cause in found.causes], ["the phone's figures changed"])


if __name__ == "__main__":
    unittest.main()
