"""Two takes side by side: what was set differently, in the words and numbers of it."""

import unittest
from dataclasses import replace

from oxlen.core.review.takes_compared import TakenWith, differences

FIRST = TakenWith(50.0, 1 / 100, 1.8, 5500.0, "Main")


class Compared(unittest.TestCase):
    def test_each_thing_dialled_otherwise_is_told_once(self):
        for change, words in (
            (
                {"iso": 400.0},
                ["ISO 400 instead of 50: 3.0 stops more", "Total: 3.0 stops brighter"],
            ),
            (
                {"shutter_s": 1 / 400},
                ["1/400 s instead of 1/100 s: 2.0 stops less", "Total: 2.0 stops darker"],
            ),
            ({"white_k": 4000.0}, ["White balance 4000 K instead of 5500 K: cooler"]),
            ({"is_raw_too": True}, ["With RAW"]),
            (
                {"lens": "Long", "f_number": 3.6},
                [
                    "Long instead of Main",
                    "f/3.6 instead of f/1.8: −2.0 stops",
                    "Total: 2.0 stops darker",
                ],
            ),
        ):
            with self.subTest(change):
                self.assertEqual(differences(FIRST, replace(FIRST, **change)), words)

    def test_what_makes_up_for_each_other_is_no_brighter_in_all(self):
        reported = differences(FIRST, replace(FIRST, iso=200.0, shutter_s=1 / 400))
        self.assertEqual(len(reported), 2)
        self.assertFalse([sentence for sentence in reported if sentence.startswith("Total time")])

    def test_what_a_file_does_not_say_and_what_is_the_same_is_not_told(self):
        self.assertEqual(differences(FIRST, FIRST), [])
        self.assertEqual(differences(FIRST, TakenWith()), [])
        self.assertEqual(differences(FIRST, replace(FIRST, iso=51.0)), [])
        raw = replace(FIRST, is_raw_too=True)
        self.assertEqual(differences(raw, FIRST), ["Without RAW"])


if __name__ == "__main__":
    unittest.main()
