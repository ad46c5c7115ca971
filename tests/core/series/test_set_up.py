"""The set-up of a series: distances, lamps, a window's light; crop and white for all."""

import unittest

import numpy as np

from oxlen.core.light.tone import linear_table
from oxlen.core.series.framing import Framing, framed
from oxlen.core.series.lamps import falloff_stops, lamp_distance_m, lamp_lx
from oxlen.core.series.look import series_look
from oxlen.core.series.set_up import ThingSize, best_place, good_share, phone_place
from oxlen.core.series.white import BRIGHTEST, lifted, white_curve
from oxlen.core.series.window_light import steady_light
from oxlen.core.sky.day import day_light
from oxlen.core.sky.place import Place
from oxlen.devices.standins.bench_series import Bench
from oxlen.formats.phone.shipped import shipped_profile

PHONE = shipped_profile("wherry-3").to_phone()
TIN = ThingSize(0.10, 0.12, 0.05)


class PhonePlaces(unittest.TestCase):
    def test_the_thing_fills_what_was_asked_and_a_longer_lens_stretches_less(self):
        places = {lens.id: phone_place(lens, TIN, 0.5) for lens in PHONE.lenses}
        for place in places.values():
            self.assertAlmostEqual(place.share, 0.5, delta=1e-6)
            self.assertAlmostEqual(place.stretch, 1 + 0.05 / place.distance_m, delta=1e-9)
        self.assertLess(places["long"].stretch, places["main"].stretch)
        self.assertEqual(best_place(list(places.values())).lens_id, "long")

    def test_the_largest_good_share_is_good_and_a_little_more_is_not(self):
        lens = PHONE.lens("main")
        share = good_share(lens, TIN)
        self.assertTrue(phone_place(lens, TIN, share).is_good)
        self.assertFalse(phone_place(lens, TIN, share + 0.02).is_good)

    def test_nearer_than_the_lens_focuses_it_stays_at_its_nearest(self):
        ring = ThingSize(0.02, 0.02, 0.01)
        place = phone_place(PHONE.lens("long"), ring, 0.9)
        self.assertEqual(place.distance_m, PHONE.lens("long").focus.closest_m)
        self.assertLess(place.share, 0.9)


class Lamps(unittest.TestCase):
    def test_falloff_of_one_lamp_is_the_inverse_square_with_its_cosine(self):
        # By hand: lamp 1 m away at 45°; the ends of 0.5 m are 0.840 and 1.191 m from it.
        off = np.sqrt(0.5)
        near, far = ((off - x) ** 2 + off**2 for x in (0.25, -0.25))
        self.assertAlmostEqual(
            falloff_stops(1.0, 0.5, pair=False), 1.5 * np.log2(far / near), delta=1e-9
        )

    def test_the_distance_found_is_just_even_enough_and_stays_so_farther_away(self):
        for pair in (True, False):
            for width in (0.3, 0.8):
                found = lamp_distance_m(width, 0.4, pair=pair)
                self.assertLessEqual(falloff_stops(found, width, pair=pair), 0.4)
                self.assertGreater(falloff_stops(found * 0.9, width, pair=pair), 0.4)
                self.assertLess(falloff_stops(found * 2, width, pair=pair), 0.4)

    def test_twice_as_far_is_two_stops_less_light(self):
        self.assertAlmostEqual(lamp_lx(800, 0.5) / lamp_lx(800, 1.0), 4.0)


class Windows(unittest.TestCase):
    def test_the_light_stays_within_a_third_of_a_stop_by_a_high_sun(self):
        june, december = 1_782_000_000.0 // 86400 * 86400, 1_797_700_000.0 // 86400 * 86400
        place = Place(52.0, 1.0)
        light = day_light(place, june)
        found = steady_light(light)
        inside = (light.unix_s >= found.from_unix_s) & (light.unix_s <= found.to_unix_s)
        self.assertLessEqual(np.ptp(light.ev100["shade"][inside]), 1 / 3)
        self.assertGreater(found.minutes, 240)
        later = steady_light(light, found.to_unix_s - 3600)
        self.assertGreaterEqual(later.from_unix_s, found.to_unix_s - 3600)
        winter = steady_light(day_light(place, december))
        self.assertLess(winter.minutes if winter else 0, found.minutes)


class CropAndWhite(unittest.TestCase):
    def test_a_square_crop_has_the_margin_asked_on_the_longer_way(self):
        crop = framed(Framing((0.4, 0.3, 0.6, 0.7), 1.0, 0.25), (0, 0, 1, 1), (600, 800))
        wide, high = (crop[2] - crop[0]) * 800, (crop[3] - crop[1]) * 600
        self.assertAlmostEqual(wide, high, delta=1e-6)
        self.assertAlmostEqual(wide, 0.4 * 600 / 0.5, delta=1e-6)
        self.assertAlmostEqual((crop[1] + crop[3]) / 2, 0.5, delta=1e-6)

    def test_a_crop_never_leaves_what_all_takes_show(self):
        draw, room = np.random.default_rng(5), (0.04, 0.04, 0.96, 0.96)
        for _ in range(200):
            left, top = draw.uniform(0.1, 0.6, 2)
            thing = (left, top, left + draw.uniform(0.05, 0.3), top + draw.uniform(0.05, 0.3))
            aspect = float(draw.choice((0.8, 1.0, 1.5)))
            crop = framed(Framing(thing, aspect, draw.uniform(0, 0.4)), room, (600, 800))
            self.assertGreaterEqual(min(crop[:2]), 0.04 - 1e-9)
            self.assertLessEqual(max(crop[2:]), 0.96 + 1e-9)

    def test_the_background_gets_the_white_asked_neutral_and_nothing_clips(self):
        reference = series_look(Bench(4).take(0))
        curve = white_curve(reference, 240)
        colour = np.median(reference.linear[reference.background], axis=0).astype(float)
        made = lifted(curve, colour)
        self.assertLess(np.ptp(made), 1e-6)
        wanted = min(linear_table(255)[240], 2 * curve.level)
        self.assertAlmostEqual(made[0], wanted, delta=1e-6)
        steps = lifted(curve, np.linspace(0, 1.5, 400)[:, None] * np.ones(3))
        self.assertLess(steps.max(), BRIGHTEST)
        self.assertTrue((np.diff(steps, axis=0) >= 0).all())
