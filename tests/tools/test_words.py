"""What can be checked of plain words by a machine, over every string that a person reads."""

import re
import unittest

from tools.words.listing import Shown, listed

OLD_WORDS = (
    r"as they lie|put together|the lighter kept|the darker kept|foretold|not said|not asked|"
    r"goes by|let go|taken in\b|take in\b|dialled otherwise|the band\b|in the hand|keep bright|"
    r"keep dark|a long time|let in|turns? white|hang on|the land\b|held against|comes? out\b|"
    r"rule of hand|run list|of glass|dark glass|understood|let it be|it stands|was said|be said"
)
"""Words the guide replaces."""
LONG_FOR_A_REASON = (
    "Never look at or aim at the Sun",  # a danger, said whole
    "Without https, others on this network",  # what is at stake, said before it is chosen
    "there and install the file as a certificate authority",  # steps outside Oxlen
    "The profile is open JSON",  # beside the text it explains
)
MOST_SIGNS, MOST_BUTTON_WORDS = 160, 3


def counted(text):
    """Words of a text; what is filled in does not count."""
    return len([word for word in text.replace("{}", " ").split() if re.search(r"\w", word)])


class Words(unittest.TestCase):
    shown: list[Shown]

    @classmethod
    def setUpClass(cls):
        cls.shown = listed()

    def test_the_listing_sees_both_sides(self):
        kinds = {one.kind for one in self.shown}
        self.assertLessEqual({"button", "label", "heading", "notice", "error", "read aloud"}, kinds)
        self.assertGreater(len(self.shown), 3500)
        self.assertTrue(any(one.text == "Unpair all phones" for one in self.shown))
        self.assertTrue(any("Fixed aperture f/" in one.text for one in self.shown))

    def test_the_words_of_the_guide_are_used(self):
        pattern = re.compile(OLD_WORDS, re.IGNORECASE)
        found = [f"{one.place}: {one.text}" for one in self.shown if pattern.search(one.text)]
        self.assertEqual(found, [])

    def test_buttons_are_short(self):
        long = [
            f"{one.place}: {one.text}"
            for one in self.shown
            if one.kind == "button"
            and counted(one.text) > MOST_BUTTON_WORDS
            and not one.text.endswith(".")
        ]
        self.assertEqual(long, [])

    def test_sentences_are_short(self):
        long = [
            f"{one.place}: {one.text}"
            for one in self.shown
            if one.kind in ("text", "button", "label", "heading", "notice", "error", "link")
            and len(one.text) > MOST_SIGNS
            and not one.text.startswith(LONG_FOR_A_REASON)
        ]
        self.assertEqual(long, [])


if __name__ == "__main__":
    unittest.main()
