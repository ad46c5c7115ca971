"""Sun, Moon, twilight and the light they give, against figures made elsewhere."""

import json
import math
import unittest
from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from oxlen.core.compute.registry import computation
from oxlen.core.errors import BadInput, OutOfRange
from oxlen.core.sky.day import day_light
from oxlen.core.sky.daylight import (
    facing_lx,
    ground_light,
    incident_ev100,
    moonlight_lx,
    sunlight_lx,
)
from oxlen.core.sky.ephemeris import bodies
from oxlen.core.sky.place import Place, altitude_deg, bearing_deg, between_deg, towards
from oxlen.core.sky.twilight import dark_spans, twilights

WORKED = json.loads(
    (Path(__file__).parents[2] / "reference" / "worked_values.json").read_text("utf-8")
)
ARCMINUTE = 1 / 60


def unix(text):
    return datetime.fromisoformat(text).replace(tzinfo=UTC).timestamp()


def sun_by_hand(place, unix_s):
    """The Sun by the low-precision series of the Astronomical Almanac (page C5): within 0.01°."""
    days = unix_s / 86400 + 2440587.5 - 2451545.0
    mean, anomaly = 280.460 + 0.9856474 * days, math.radians(357.528 + 0.9856003 * days)
    longitude = math.radians(mean + 1.915 * math.sin(anomaly) + 0.020 * math.sin(2 * anomaly))
    tilt = math.radians(23.439 - 4e-7 * days)
    ra = math.atan2(math.cos(tilt) * math.sin(longitude), math.cos(longitude))
    dec = math.asin(math.sin(tilt) * math.sin(longitude))
    sidereal = math.radians((280.46061837 + 360.98564736629 * days) % 360)
    hour = sidereal + math.radians(place.longitude_deg) - ra
    latitude = math.radians(place.latitude_deg)
    return np.array(
        [
            math.cos(latitude) * math.sin(dec)
            - math.sin(latitude) * math.cos(dec) * math.cos(hour),
            -math.cos(dec) * math.sin(hour),
            math.sin(latitude) * math.sin(dec)
            + math.cos(latitude) * math.cos(dec) * math.cos(hour),
        ]
    )


class Directions(unittest.TestCase):
    def test_bodies_stand_within_an_arcminute_of_values_made_elsewhere(self):
        for name in ("sun_position", "moon_position", "galactic_centre_alt_az"):
            quantity = next(known for known in WORKED["quantities"] if known["id"] == name)
            for case in quantity["cases"]:
                with self.subTest(name, case=case["in"]):
                    got, want = computation(name).run(case["in"]), case["out"]
                    apart = between_deg(
                        towards(got["az"], got["alt"]), towards(want["az"], want["alt"])
                    )
                    self.assertLess(float(apart), ARCMINUTE)

    def test_the_sun_agrees_with_a_series_of_its_own_at_the_poles_and_over_the_date_line(self):
        for latitude in (-90, -66.6, 0, 45, 89.9):
            for longitude in (-180, -179.99, 0, 179.99, 180):
                for when in ("2027-01-05T00:00", "2027-06-21T23:59", "2027-09-30T11:00"):
                    place = Place(latitude, longitude)
                    at = unix(when)
                    found = bodies(place, np.array([at])).sun[:, 0]
                    apart = between_deg(found, sun_by_hand(place, at))
                    self.assertLess(float(apart), 1.2 * ARCMINUTE, (latitude, longitude, when))

    def test_the_date_line_is_no_edge(self):
        at = np.array([unix("2027-03-01T06:00")])
        east, west = (bodies(Place(-17.0, lon), at) for lon in (180.0, -180.0))
        np.testing.assert_allclose(east.moon, west.moon, atol=1e-9)

    def test_compass_and_height_are_told_back(self):
        for bearing, height in ((0, 0), (90, 45), (271, -30), (359.5, 89)):
            direction = towards(bearing, height)
            self.assertAlmostEqual(float(bearing_deg(direction)), bearing)
            self.assertAlmostEqual(float(altitude_deg(direction)), height)

    def test_what_is_out_of_reach_is_refused_by_name(self):
        with self.assertRaisesRegex(OutOfRange, "latitude"):
            Place(91, 0)
        with self.assertRaisesRegex(BadInput, "1900 to 2049"):
            computation("sun_position").run({"lat": 0, "lon": 0, "utc": "1850-01-01T00:00:00Z"})
        for given in (5, "yesterday", "x" * 99):
            with self.assertRaisesRegex(BadInput, "utc"):
                computation("sun_position").run({"lat": 0, "lon": 0, "utc": given})


class Days(unittest.TestCase):
    def test_days_without_dark_or_without_sun_are_told_in_words(self):
        rows = (
            (69.65, 18.96, "2026-06-21T12:00", "does not set"),
            (69.65, 18.96, "2026-12-21T12:00", "does not rise"),
            (51.48, 0.0, "2026-06-21T12:00", "does not get fully dark"),
            (62.0, 25.0, "2026-06-21T12:00", "stays light"),
            (89.0, 0.0, "2026-12-21T00:00", "night all day"),
        )
        for latitude, longitude, start, words in rows:
            with self.subTest(words):
                found = day_light(Place(latitude, longitude), unix(start))
                self.assertIn(words, " ".join(found.told))
        self.assertEqual(day_light(Place(30, 0), unix("2026-03-20T12:00")).told, ())

    def test_moments_come_in_order_and_agree_with_the_twilights(self):
        place, start = Place(50.9, -1.2), unix("2026-11-27T12:00")
        found = day_light(place, start)
        times = [moment.unix_s for moment in found.moments]
        self.assertEqual(times, sorted(times))
        named = {moment.words: moment.unix_s for moment in found.moments}
        seen = twilights(place, start)
        self.assertAlmostEqual(named["Sunset"], seen.sunset, delta=0.1)
        self.assertAlmostEqual(named["Night begins"], seen.astro_dusk, delta=0.1)
        self.assertAlmostEqual(named["Blue hour ends"], seen.civil_dusk, delta=0.1)

    def test_it_is_dark_while_the_sun_is_six_degrees_down(self):
        start = unix("2026-10-03T12:00")
        for place in (Place(51.5, 4.0), Place(-33.0, 151.0), Place(66.0, -20.0)):
            spans = dark_spans(place, start, 3 * 86400.0)
            inside = [edge for span in spans for edge in span if start < edge < start + 3 * 86400]
            self.assertGreater(len(inside), 4)
            for edge in inside:
                up = math.degrees(math.asin(sun_by_hand(place, edge)[2]))
                self.assertAlmostEqual(up, -6.0, delta=0.02)
            for dusk, dawn in spans:
                middle = math.degrees(math.asin(sun_by_hand(place, (dusk + dawn) / 2)[2]))
                self.assertLess(middle, -6.0)

    def test_a_polar_night_is_dark_throughout_and_a_polar_day_never(self):
        place, span_s = Place(80.0, 0.0), 86400.0
        winter, summer = unix("2026-12-21T00:00"), unix("2026-06-21T00:00")
        self.assertEqual(dark_spans(place, winter, span_s), ((winter, winter + span_s),))
        self.assertEqual(dark_spans(place, summer, span_s), ())


class Light(unittest.TestCase):
    def test_sun_and_moon_light_the_ground_as_tables_have_it(self):
        # RCA Electro-Optics Handbook, 1974, table 6-1; full Moon: Seidelmann 1992.
        rows = (
            (90, 124_000),
            (0, 732),
            (-6, 3.4),
            (-12, 0.0083),
            (-18, 0.00065),
        )
        for height, lux in rows:
            self.assertLess(abs(math.log2(float(sunlight_lx(height)) / lux)), 0.5, height)
        self.assertLess(abs(math.log2(float(moonlight_lx(90, 180)) / 0.267)), 0.5)
        quarter = math.log2(float(moonlight_lx(90, 90)) / 0.267)
        self.assertTrue(-3.6 < quarter < -2.9, quarter)  # a half Moon gives a ninth
        self.assertEqual(float(sunlight_lx(-18.1)), 0)
        self.assertEqual(float(moonlight_lx(-1, 180)), 0)

    def test_the_pieces_of_the_curve_meet(self):
        for height in (-12, -5, -0.8, 5, 20):
            below, above = (float(sunlight_lx(height + side)) for side in (-1e-6, 1e-6))
            self.assertLess(abs(math.log2(above / below)), 0.12, height)

    def test_cloud_and_facing_order_the_light(self):
        for height in (2, 10, 35, 70):
            clear, partly, over = (
                ground_light(height, cloud) for cloud in ("clear", "partly", "overcast")
            )
            self.assertGreater(clear.level_lx[0], partly.level_lx[0])
            self.assertGreater(partly.level_lx[0], over.level_lx[0])
            self.assertEqual(over.straight_lx[0], 0)
            ev = {
                facing: float(incident_ev100(facing_lx(clear, height, facing))[0])
                for facing in ("open", "shade", "away", "towards")
            }
            self.assertGreater(ev["open"], ev["shade"])
            self.assertGreater(ev["away"], ev["towards"])
        # Overcast reads 2 to 4 stops under full sun at noon, as every exposure table has it.
        sun, grey = (ground_light(50, weather).level_lx[0] for weather in ("clear", "overcast"))
        self.assertTrue(2 < math.log2(sun / grey) < 4)

    def test_full_sun_reads_as_the_rule_of_sixteen(self):
        noon = incident_ev100(facing_lx(ground_light(50, "clear"), 50, "away"))
        self.assertAlmostEqual(float(noon[0]), 14.9, delta=0.5)
