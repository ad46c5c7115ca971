"""`oxlen hours`, `night` and `sky` as a script sees them."""

import json
import tempfile
import unittest
from datetime import datetime
from pathlib import Path

from tests.cli.test_commands import oxlen
from tests.core.sky.test_night import stars
from tests.pictures.making import exif, jpeg
from tests.stacking.frames import codes_of

YARD = ("--lat", "44.6", "--lon", "-63.9")


class Hours(unittest.TestCase):
    def answer(self, *command):
        done = oxlen(*command)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(done.stderr, "")
        return json.loads(done.stdout)

    def test_a_day_is_told_by_the_clock_there_or_the_one_asked_for(self):
        here = self.answer("hours", *YARD, "--date", "2027-06-04", "--cloud", "partly")
        self.assertEqual(here["place"]["time_zone"], "America/Halifax")
        self.assertEqual(here["plus_minus_stops"], 1.0)
        self.assertEqual(len(here["quarters"]), 97)
        there = self.answer("hours", *YARD, "--date", "2027-06-04", "--tz", "UTC")
        sunsets = [
            datetime.fromisoformat(place["twilights"]["sunset"]).timestamp()
            for place in (here, there)
        ]
        self.assertEqual(here["twilights"]["sunset"][:16], "2027-06-04T20:55")
        # By another clock the day begins at another time: its sunset is the one before or the same.
        self.assertLess(abs(sunsets[0] - sunsets[1]), 86_400 + 120)

    def test_a_night_names_its_windows_and_plans_for_the_phone_asked_for(self):
        night = self.answer(
            "night", *YARD, "--date", "2027-06-04", "--phone", "dabber", "--magnitude", "21.5"
        )
        self.assertEqual(night["sky_magnitude"], 21.5)
        begins = datetime.fromisoformat(night["dark"][0]["from_at"])
        self.assertEqual((begins.hour, begins.minute), (23, 19))
        self.assertLessEqual(max(way["shutter_s"] for way in night["ways"]), 2.0)
        self.assertEqual([rule["rule"] for rule in night["rules"]], ["500", "npf", "pixels"])

    def test_a_picture_of_stars_is_read_and_what_cannot_be_is_a_sentence(self):
        with tempfile.TemporaryDirectory() as name:
            path = Path(name) / "stars.jpg"
            path.write_bytes(jpeg(codes_of(stars(8.0)), exif(iso=1600, shutter=(10, 1))))
            seen = self.answer("sky", path)
        self.assertAlmostEqual(seen["trail_px"], 8.0, delta=0.6)
        self.assertIsNotNone(seen["magnitude"])
        for command, words in (
            (("hours", "--lat", "95", "--lon", "0", "--date", "2027-06-04"), "latitude"),
            (("hours", *YARD, "--date", "June"), "2027-03-20"),
            (("hours", *YARD, "--date", "2027-06-04", "--tz", "Nowhere"), "time zone"),
            (("night", *YARD, "--date", "2199-06-04"), "1900 to 2049"),
            (("night", *YARD, "--date", "2027-06-04", "--class", "12"), "dark_sky_class"),
            (("sky", "/nowhere/x.jpg"), "x.jpg"),
        ):
            done = oxlen(*command)
            with self.subTest(command=command):
                self.assertEqual(done.returncode, 2)
                self.assertIn(words, done.stderr)
