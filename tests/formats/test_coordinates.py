"""Positions as people paste them."""

import time
import unittest

from oxlen.core.errors import BadInput, OutOfRange
from oxlen.formats.coordinates import position_of


class Positions(unittest.TestCase):
    def test_positions_are_read_as_they_are_written_everywhere(self):
        rows = (
            ("50.9,-1.25", 50.9, -1.25),
            (" 50,9; -1,25 ", 50.9, -1.25),
            ("geo:50.9,-1.25?z=14", 50.9, -1.25),
            ("−33.5 151.25", -33.5, 151.25),
            ("50° 54′ N, 1° 15′ W", 50.9, -1.25),
            ("N 50° 54' W 1° 15'", 50.9, -1.25),
            ("33°30'36\"S 151°15'0\"E", -33.51, 151.25),
            ("1° 15' W 50° 54' N", 50.9, -1.25),
            ("50:54:00 N, 1:15:00 W", 50.9, -1.25),
            ("N 50 54 36 W 1 15 0", 50.91, -1.25),
            ("50° 54.6' N, 1° 15' W", 50.91, -1.25),
        )
        for text, north, east in rows:
            with self.subTest(text):
                found = position_of(text)
                self.assertAlmostEqual(found.latitude_deg, north)
                self.assertAlmostEqual(found.longitude_deg, east)

    def test_what_names_no_place_is_refused(self):
        for text in ("", "the slip", "50.9", "50° N 20° N", "50 54 N", "50 72 N 1 W", "N 5090 W 1"):
            with self.subTest(text), self.assertRaises(BadInput):
                position_of(text)
        with self.assertRaises(OutOfRange):
            position_of("95, 10")

    def test_no_text_takes_long_to_be_refused(self):
        texts = ("1" * 195, "1 " * 97, "N" + "1 " * 90, "1° " * 60, "1:" * 99, "12" * 90 + "N 3W")
        began = time.process_time()
        for text in texts:
            with self.assertRaises(BadInput):
                position_of(text)
        # Two seconds for one of them before digits were bounded.
        self.assertLess(time.process_time() - began, 0.5)
