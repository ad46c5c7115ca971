"""Numbers as people type them, in the unit of their field."""

import unittest

from tests.web.modules import called

CASES = [
    ("6", "m", 6.0),
    ("6 m", "m", 6.0),
    ("20 ft", "m", 6.096),
    ("5 ft 6 in", "m", 1.6764),
    ("35cm", "m", 0.35),
    ("2 cm", "mm", 20.0),
    ("30 km/h", "m/s", 8.33333),
    ("20 mph", "m/s", 8.9408),
    ("12 kn", "m/s", 6.17333),
    ("1/250", "s", 0.004),
    ("1/250 s", "s", 0.004),
    ("2 min", "s", 120.0),
    ("1 min 30 s", "s", 90.0),
    ("90 min", "h", 1.5),
    ("5500K", "K", 5500.0),
    ("5500 K", "K", 5500.0),
    ("−1/3", "stops", -0.333333),
    ("+0,7", "stops", 0.7),
    ("1.5 stops", "stops", 1.5),
    ("12", "", 12.0),
]
REFUSED = [("6 m", "s"), ("ten", "m"), ("", "m"), ("3 m/s", "m"), ("--2", "m"), ("5 K m", "K")]


class Typed(unittest.TestCase):
    def test_units_of_the_field_s_kind_are_converted(self):
        found = called("ui/typed.ts", "typed", [[text, unit] for text, unit, _ in CASES])
        for (text, unit, expected), value in zip(CASES, found, strict=True):
            with self.subTest(text, unit=unit):
                self.assertAlmostEqual(value, expected, places=4)

    def test_other_kinds_and_words_are_refused(self):
        found = called("ui/typed.ts", "typed", [list(case) for case in REFUSED])
        self.assertEqual(found, [None] * len(REFUSED))  # JSON has no NaN


if __name__ == "__main__":
    unittest.main()
