"""Nights: trails, stacks, dark windows, the Milky Way, and readings of a frame of stars."""

import unittest
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np

from oxlen.core.errors import OutOfRange
from oxlen.core.night.ask import NightAsk, longest_s
from oxlen.core.night.ways import night_ways
from oxlen.core.review.night_frame import class_of, next_time, night_frame
from oxlen.core.sky.brightness import (
    CLASS_MAG,
    magnitude_of,
    magnitude_of_ev100,
    moonlit_luminance_cd_m2,
    sky_ev100,
    sky_luminance_cd_m2,
)
from oxlen.core.sky.dark_windows import Wanted, best_windows, dark_windows
from oxlen.core.sky.ephemeris import bodies, star
from oxlen.core.sky.foreground import bare_lamp_distance_m, foreground_needs_lx
from oxlen.core.sky.frame_trails import corner_trail_px
from oxlen.core.sky.galaxy import (
    BRIGHT_REACH_DEG,
    CENTRE_DEC_DEG,
    CENTRE_RA_DEG,
    band,
    band_held_share,
    band_view,
)
from oxlen.core.sky.horizon import Glow, HorizonPoint, glow_stops, hidden_below_deg
from oxlen.core.sky.place import Place, altitude_deg, bearing_deg, towards
from oxlen.core.sky.trailing import Star, arc_trail_px, projected_trail_px, star_trail_px
from oxlen.formats.phone.shipped import shipped_profile

WHERRY = shipped_profile("wherry-3").to_phone()
MAIN = WHERRY.lens("main")
MODE = MAIN.mode(None)
SOUTH = Place(-30.0, 20.0)


def unix(text):
    return datetime.fromisoformat(text).replace(tzinfo=UTC).timestamp()


class Trails(unittest.TestCase):
    def test_on_the_axis_it_is_the_simple_form_and_in_the_corner_more(self):
        for dec in (-40.0, 0.0, 60.0):
            axis = projected_trail_px(6.8, 1.2, 20.0, axis_dec_deg=dec, star=Star(0.0, dec))
            simple = star_trail_px(6.8, 1.2, 20.0, declination_deg=dec)
            self.assertAlmostEqual(float(axis), float(simple), delta=0.002 * float(simple))
            corner = corner_trail_px(MAIN, MODE, 20.0, axis_dec_deg=dec)
            self.assertGreater(
                corner,
                1.2 * star_trail_px(MAIN.focal_mm, MODE.pixel_pitch_um, 20.0, declination_deg=dec),
            )

    def test_long_trails_are_arcs_longer_than_their_chord(self):
        star_of = Star(0.0, 60.0)
        hours = 6 * 3600
        arc = arc_trail_px(6.8, 1.2, hours, axis_dec_deg=90.0, star=star_of)
        chord = projected_trail_px(6.8, 1.2, hours, axis_dec_deg=90.0, star=star_of)
        radius = 6800 / 1.2 * np.tan(np.radians(30))
        self.assertAlmostEqual(arc, radius * np.radians(15.041 * 6), delta=1)
        self.assertAlmostEqual(float(chord), 2 * radius * np.sin(np.radians(15.041 * 3)), delta=1)
        behind = projected_trail_px(6.8, 1.2, 10.0, axis_dec_deg=0.0, star=Star(120.0, 0.0))
        self.assertTrue(np.isnan(behind))


class Ways(unittest.TestCase):
    def ways(self, **asked):
        return {way.id: way for way in night_ways(WHERRY, MAIN, MODE, asked=NightAsk(**asked))}

    def test_rules_stand_side_by_side_and_pixels_hold_in_the_corners(self):
        for px in (1.0, 4.0, 10.0):
            asked = NightAsk(rule="pixels", trail_px=px)
            longest = longest_s(MAIN, MODE, asked)
            corner = corner_trail_px(MAIN, MODE, longest, axis_dec_deg=0.0)
            self.assertAlmostEqual(corner, px, delta=0.01 * px)
        self.assertAlmostEqual(longest_s(MAIN, MODE, NightAsk(rule="500")), 500 / 24)

    def test_the_stack_has_the_frames_its_noise_takes_and_no_more(self):
        for magnitude in (22.0, 20.0, 18.0):
            for wanted in (15.0, 30.0, 60.0):
                stack = self.ways(sky_magnitude=magnitude, snr=wanted)["stack"]
                if stack.reaches and stack.frames > 8:
                    self.assertTrue(wanted * 0.98 <= stack.snr < 1.12 * wanted, stack)
                self.assertIn(stack.shutter_s, MODE.manual.shutter_s)
                self.assertIn(stack.iso, MODE.manual.iso)

    def test_its_iso_is_the_lowest_that_loses_nothing(self):
        dark, bright = (self.ways(sky_magnitude=window)["stack"] for window in (22.0, 17.5))
        self.assertGreater(dark.iso, bright.iso)
        self.assertLess(bright.read_excess, 0.05)
        self.assertIn("read noise adds only", " ".join(bright.told))
        self.assertIn("would hide the read noise", " ".join(dark.told))

    def test_no_frame_of_a_stack_lands_more_than_a_stop_too_light(self):
        for magnitude in (17.0, 18.5, 20.0, 21.5):
            for lens_id in ("main", "ultra-wide", "long"):
                lens = WHERRY.lens(lens_id)
                found = {
                    way.id: way
                    for way in night_ways(WHERRY, lens, lens.mode(None), asked=NightAsk(magnitude))
                }
                self.assertLessEqual(found["stack"].sky_stops, -2.0 + 1e-6, (magnitude, lens_id))

    def test_one_frame_places_the_sky_and_the_phones_own_mode_is_told_apart(self):
        found = self.ways(sky_magnitude=20.5)
        self.assertAlmostEqual(found["one"].sky_stops, -3.0, delta=0.2)
        self.assertIsNone(found["phone"].iso)
        self.assertIn("no RAW", " ".join(found["phone"].told))
        self.assertLess(found["one"].snr, found["stack"].snr)

    def test_trails_turn_by_the_arc_asked_for_without_gaps_that_show(self):
        for arc in (5.0, 15.0, 60.0):
            found = self.ways(arc_deg=arc)["trails"]
            turned = found.elapsed_s * 15.041 / 3600
            self.assertTrue(arc <= turned < arc + 0.2, turned)
            self.assertLessEqual(found.sky_stops, -2.8)
            self.assertIn("No gap shows", " ".join(found.told))
        many = self.ways(arc_deg=90.0, gap_s=0.2)["trails"]
        self.assertIn("More than 500 frames", " ".join(many.told))
        dotted = self.ways(gap_s=10.0)["trails"]
        self.assertIn("Close them", " ".join(dotted.told))
        cut = self.ways(arc_deg=60.0, window_s=3600.0)["trails"]
        self.assertLessEqual(cut.elapsed_s, 3640.0)
        self.assertIn("too short for 60°", " ".join(cut.told))

    def test_a_short_night_cuts_the_stack_and_says_so(self):
        long = self.ways(sky_magnitude=22.0, snr=60.0)["stack"]
        short = self.ways(sky_magnitude=22.0, snr=60.0, window_s=long.elapsed_s / 3)["stack"]
        self.assertLess(short.elapsed_s, long.elapsed_s / 3)
        self.assertFalse(short.reaches)
        self.assertIn("Noisy", short.told[0])

    def test_what_makes_no_sense_is_refused(self):
        with self.assertRaisesRegex(OutOfRange, "sky_magnitude"):
            NightAsk(sky_magnitude=3)


class Brightness(unittest.TestCase):
    def test_magnitudes_turn_back_and_classes_follow_each_other(self):
        for magnitude in (17.0, 19.5, 22.0):
            self.assertAlmostEqual(magnitude_of_ev100(sky_ev100(magnitude)), magnitude)
        for darker, lighter in zip(range(1, 9), range(2, 10), strict=True):
            self.assertEqual(CLASS_MAG[darker][0], CLASS_MAG[lighter][1])
        self.assertEqual([class_of(window) for window in (22.5, 21.0, 18.2, 12.0)], [1, 4, 8, 9])

    def test_moonlight_lifts_the_sky_as_observers_found(self):
        # Krisciunas and Schaefer 1991: at full Moon a dark sky loses 3 to 4 magnitudes.
        at = {"moon_altitude_deg": 45.0, "sky_altitude_deg": 60.0, "apart_deg": 60.0}
        dark = sky_luminance_cd_m2(21.6)
        full = magnitude_of(dark + moonlit_luminance_cd_m2(**at, elongation_deg=180.0))
        half = magnitude_of(dark + moonlit_luminance_cd_m2(**at, elongation_deg=90.0))
        self.assertTrue(3 < 21.6 - full < 4.2, full)
        self.assertTrue(0.8 < 21.6 - half < 2.2, half)
        down = {**at, "moon_altitude_deg": -1.0}
        self.assertEqual(moonlit_luminance_cd_m2(**down, elongation_deg=180.0), 0)

    def test_horizon_and_glow(self):
        points = [HorizonPoint(350, 20), HorizonPoint(10, 10), HorizonPoint(180, 0)]
        self.assertAlmostEqual(float(hidden_below_deg(points, 0)), 15)
        self.assertAlmostEqual(float(hidden_below_deg(points, 720)), 15)
        town = [Glow(90.0, 2.0)]
        near, side, high = (float(glow_stops(town, *to)) for to in ((90, 5), (150, 5), (90, 60)))
        self.assertGreater(near, side)
        self.assertGreater(near, high)

    def test_a_lamp_twice_as_far_lights_a_quarter(self):
        needs = foreground_needs_lx(float(sky_luminance_cd_m2(21.0)))
        self.assertAlmostEqual(
            bare_lamp_distance_m(4.0, needs) / bare_lamp_distance_m(1.0, needs), 2.0
        )


class Windows(unittest.TestCase):
    def test_every_window_holds_what_was_wanted_at_its_ends_and_its_best(self):
        first = unix("2027-04-01T12:00")
        wanted = Wanted(horizon=(HorizonPoint(90, 30), HorizonPoint(270, 5)))
        found = dark_windows(SOUTH, first, first + 40 * 86400, wanted=wanted)
        self.assertGreater(len(found), 10)
        for window in found:
            times = np.array([window.from_unix_s + 60, window.best_unix_s, window.to_unix_s - 60])
            seen = bodies(SOUTH, times)
            self.assertTrue((altitude_deg(seen.sun) < -17.9).all())
            self.assertTrue((altitude_deg(seen.moon) < -0.6).all())
            centre = star(SOUTH, times, CENTRE_RA_DEG, declination_deg=CENTRE_DEC_DEG)
            hidden = hidden_below_deg(wanted.horizon, bearing_deg(centre))
            self.assertTrue((altitude_deg(centre) > np.maximum(hidden, 10) - 0.3).all())
            self.assertAlmostEqual(window.altitude_deg, float(altitude_deg(centre)[1]), delta=0.1)

    def test_the_best_nights_lie_about_new_moon(self):
        first = unix("2027-05-01T00:00")
        found = dark_windows(SOUTH, first, first + 90 * 86400, wanted=Wanted())
        new_moons = [unix("2027-05-06T11:00"), unix("2027-06-04T20:00"), unix("2027-07-04T03:00")]
        for window in best_windows(found, 5):
            away = min(abs(window.best_unix_s - moon) for moon in new_moons)
            self.assertLess(away, 8 * 86400)

    def test_only_in_the_hours_given_and_only_darkness_where_no_star_is_named(self):
        first = unix("2027-05-04T12:00")
        early = Wanted(right_ascension_deg=None, allowed=lambda at: (at - first) % 86400 < 8 * 3600)
        found = dark_windows(Place(-30.0, 0.0), first, first + 3 * 86400, wanted=early)
        self.assertEqual(len(found), 3)
        for window in found:
            self.assertLessEqual((window.to_unix_s - first) % 86400, 8 * 3600 + 200)
        light = dark_windows(
            Place(65, 0), unix("2027-06-20T12:00"), unix("2027-06-21T12:00"), wanted=early
        )
        self.assertEqual(light, ())


class TheBand(unittest.TestCase):
    def test_the_band_runs_through_the_centre_and_north_of_the_pole_of_it_none(self):
        directions = band()
        np.testing.assert_allclose(np.sum(directions**2, axis=0), 1)
        middle = directions[:, directions.shape[1] // 2]
        ra, dec = (
            np.degrees(np.arctan2(middle[1], middle[0])) % 360,
            np.degrees(np.arcsin(middle[2])),
        )
        self.assertAlmostEqual(ra, CENTRE_RA_DEG, delta=0.1)
        self.assertAlmostEqual(dec, CENTRE_DEC_DEG, delta=0.1)
        # A quarter of the way round is near Deneb, at 318 and 48 degrees (J2000).
        quarter = directions[:, directions.shape[1] // 2 + 30]
        self.assertAlmostEqual(np.degrees(np.arcsin(quarter[2])), 48.3, delta=0.2)

    def test_an_upright_band_leans_nowhere_and_wider_lenses_hold_more(self):
        upright = np.stack([towards(180.0, h) for h in np.linspace(-30, 90, 41)], axis=1)
        view = band_view(upright)
        self.assertAlmostEqual(view.tilt_deg, 0.0, delta=0.01)
        self.assertAlmostEqual(view.up_share, 0.75, delta=0.03)
        leaning = np.stack(
            [towards(180 + 20 * s, 40 + 20 * s) for s in np.linspace(-1, 1, 41)], axis=1
        )
        self.assertAlmostEqual(band_view(leaning).tilt_deg, 37.5, delta=1)
        held = [
            band_held_share(upright, field_deg=(window, window), aim=towards(180.0, 45.0))
            for window in (30.0, 60.0, 90.0)
        ]
        self.assertEqual(held, sorted(held))
        self.assertAlmostEqual(held[-1], 0.75, delta=0.05)
        self.assertEqual(BRIGHT_REACH_DEG, 60)


FAR_PX = 6000.0
"""Through so long a lens stars trail alike everywhere."""


def stars(length, *, sigma=1.1, level=0.05, angle=0.4, seed=2):
    draw = np.random.default_rng(seed)
    frame = np.zeros((600, 800))
    rows, columns = np.mgrid[-7:8, -7:8]
    for _ in range(120):
        x, y, bright = draw.uniform(40, 740), draw.uniform(40, 540), draw.uniform(0.4, 3)
        steps = max(2, int(6 * length))
        for share in np.linspace(-0.5, 0.5, steps):
            at = x + share * length * np.cos(angle), y + share * length * np.sin(angle)
            left, top = int(at[0]), int(at[1])
            spot = np.exp(
                -((columns + left - at[0]) ** 2 + (rows + top - at[1]) ** 2) / (2 * sigma**2)
            )
            frame[top - 7 : top + 8, left - 7 : left + 8] += (
                bright * max(1, length / 4) / steps * spot
            )
    return (frame + level + draw.normal(0, 0.004, frame.shape)).astype(np.float32)


class AfterTheFrame(unittest.TestCase):
    def test_trails_and_sky_are_read_off_the_stars(self):
        for length in (3.0, 6.0, 15.0, 40.0):
            found = night_frame(stars(length), mid_ev100=-4.0, focal_px=FAR_PX)
            self.assertAlmostEqual(found.trail_px, length, delta=max(0.5, 0.05 * length))
            self.assertAlmostEqual(found.sky_ev100, -4.0 + np.log2(0.05), delta=0.05)
        halved = night_frame(stars(6.0), mid_ev100=-4.0, scale=2.0, focal_px=FAR_PX)
        self.assertAlmostEqual(halved.trail_px, 12.0, delta=0.7)

    def test_each_fault_is_told_and_a_good_frame_is_let_be(self):
        good = night_frame(stars(3.0), mid_ev100=-4.0, focal_px=FAR_PX)
        magnitude = good.magnitude
        self.assertEqual(
            list(next_time(good, assumed_magnitude=magnitude, planned_trail_px=3.0)), []
        )
        rows = (
            (night_frame(stars(3.0, sigma=3.0), mid_ev100=-4.0), {}, "focus is off"),
            (good, {"planned_trail_px": 0.8}, "the phone moved"),
            (good, {"assumed_magnitude": magnitude + 1.0}, "1.3 stops brighter"),
            (replace(good, width_px=None, trail_px=None), {}, "Too few stars"),
        )
        for seen, known, words in rows:
            with self.subTest(words):
                self.assertIn(words, " ".join(next_time(seen, **known)))

    def test_a_frame_without_stars_or_settings_says_what_it_can(self):
        draw = np.random.default_rng(1)
        plain = draw.normal(0.02, 0.002, (300, 400)).astype(np.float32)
        found = night_frame(plain, mid_ev100=None)
        self.assertIsNone(found.sky_ev100)
        self.assertIsNone(found.trail_px)
        self.assertLess(found.stars, 6)
