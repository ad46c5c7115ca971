"""Reasons: each value of the slip names the one thing that decided it, in words that hold."""

import unittest

from oxlen.core.decisions.exposure.ask import Strategy
from oxlen.core.decisions.exposure.words.slip import residual_words
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()


def reasons(ev, **more):
    """Reasons of a plan by the value they explain."""
    brief = ask_brief(WHERRY, readings=(PlacedReading("subject", ev, 0.0),), **more)
    return {reason.value: reason for reason in plan(brief).reasons}


class Reasons(unittest.TestCase):
    def test_iso(self):
        rows = [
            (12, {}, "device_iso", "Lowest of this phone"),
            (2, {"strategy": Strategy("floor")}, "hold", "keeps 1/3 s of “hold still”"),
            (3, {}, "steady", "1/8 s, 1.4 stops inside “hold still”"),
            (-1.7, {}, "device_iso", "Highest of this phone"),
            (1, {"strategy": Strategy("ceiling", 800)}, "iso_cap", "Your ISO cap"),
            (
                3,
                {"strategy": Strategy("ceiling", 3200)},
                "ceiling",
                "2.1 stops inside “hold still”",
            ),
            (
                4,
                {"strategy": Strategy("shutter_first", shutter_s=0.1)},
                "shutter_first",
                "For 1/10 s",
            ),
            (-6, {"support": "tripod"}, "device_shutter", "reaches the exposure: 30 s"),
        ]
        for ev, more, because, words in rows:
            with self.subTest(words):
                found = reasons(ev, **more)["iso"]
                self.assertEqual(found.because, because)
                self.assertIn(words, found.text)

    def test_shutter(self):
        self.assertEqual(reasons(12)["shutter_s"].text, "ISO 50 needs 1/640 s at EV 12.0")
        self.assertIn("Safe shutter: 1/3 s", reasons(2)["shutter_s"].text)
        first = Strategy("shutter_first", shutter_s=1 / 250)
        self.assertIn("1/250 s", reasons(6, strategy=first)["shutter_s"].text)

    def test_lens(self):
        self.assertIn("first lens. Fixed aperture f/1.8", reasons(9)["lens"].text)
        self.assertIn("Your choice", reasons(9, lens_id="long")["lens"].text)

    def test_exposure_says_where_the_subject_is_put(self):
        self.assertEqual(reasons(9)["exposure"].text, "The subject at mid is EV 9.0.")

    def test_no_slip_still_explains_the_exposure(self):
        # What does not depend on the exposure is decided all the same.
        found = set(reasons(9, strategy=Strategy(iso_cap=10)))
        self.assertEqual(found, {"exposure", "lens", "white", "focus", "format"})

    def test_residual_in_words(self):
        self.assertEqual(residual_words(0.2), "0.2 stop brighter than planned")
        self.assertEqual(residual_words(-2.34), "2.3 stops darker than planned")
