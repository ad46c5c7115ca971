"""A take compared with its plan: what explains it, what comes first, and what to change."""

import unittest
from dataclasses import replace

import numpy as np
from bench.takes import SUBJECTS, Shots, _turned

from oxlen.core.frames.alignment import aligned
from oxlen.core.light.tone import LUMA
from oxlen.core.review.blur_cause import BlurCause
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.level import lean
from oxlen.core.review.take_check import check_take
from oxlen.core.review.take_seen import PlannedSpot, SeenSpot, SeenTake, TakeSettings
from oxlen.core.simulate.exposing import CaptureSettings, shake_blur_px
from oxlen.formats.scene_file import shipped_scene

SLIP = TakeSettings(50.0, 1 / 500, 5500.0)
PLANNED = (
    PlannedSpot("hull", "subject", 0.0, 0.0),
    PlannedSpot("sky", "keep-bright", 2.0, 1.8),
)


def seen(hull, sky, settings=SLIP, **more):
    """A raw take with such spots."""
    spots = (SeenSpot("hull", hull), SeenSpot("sky", sky))
    return SeenTake(settings, spots, is_raw=True, **more)


WHITE = "White balance to 4500 K. Correct it in development: RAW allows it."


class Explaining(unittest.TestCase):
    def test_as_planned_needs_nothing(self):
        found = check_take(SLIP, PLANNED, seen(0.1, 1.7))
        self.assertEqual((found.light, found.change.what), ("as_planned", "nothing"))

    def test_dialled_otherwise_is_told_from_light_that_changed(self):
        otherwise = TakeSettings(100.0, 1 / 250, 5500.0)
        found = check_take(SLIP, PLANNED, seen(2.0, 3.8, otherwise))
        self.assertEqual((found.light, found.change.what), ("as_planned", "dial"))
        self.assertAlmostEqual(found.settings_off.stops, 2.0)
        self.assertIn("ISO 50, 1/500 s", found.change.words)
        self.assertEqual(found.change.light_stops, 0.0)
        both = check_take(SLIP, PLANNED, seen(3.0, 4.8, otherwise))
        self.assertEqual((both.light, both.light_stops), ("light_changed", 1.0))
        # Both are off: the new slip leads, and how it was dialled is named with it.
        self.assertEqual((both.change.what, both.change.light_stops), ("light", 1.0))
        self.assertEqual(len(both.verdict), 2)
        self.assertIn("ISO 100 and 1/250 s", both.verdict[1])

    def test_a_frame_far_too_dark_is_never_to_be_dialled_darker(self):
        brighter = TakeSettings(50.0, 1 / 125, 5500.0)
        found = check_take(SLIP, PLANNED, seen(-6.0, -4.2, brighter))
        self.assertAlmostEqual(found.settings_off.stops, 2.0)
        self.assertEqual(found.change.words, "Dial the new slip.")
        self.assertAlmostEqual(found.change.light_stops, -8.0, delta=0.1)

    def test_all_spots_off_alike_is_the_light_unless_it_was_only_guessed(self):
        found = check_take(SLIP, PLANNED, seen(-1.5, 0.4))
        self.assertEqual((found.light, found.change.what), ("light_changed", "light"))
        self.assertAlmostEqual(found.change.light_stops, -1.45)
        self.assertIn("1.4 stops less", found.change.why)
        guessed = check_take(SLIP, PLANNED, seen(-1.5, 0.4), metered_by_picture=False)
        self.assertEqual(guessed.light, "read_wrongly")
        # One spot off and the other not: that one was read wrongly, whatever it was read from.
        spot = check_take(SLIP, PLANNED, seen(-1.5, 1.8))
        self.assertEqual(spot.light, "read_wrongly")
        self.assertIn("hull", spot.change.why)

    def test_by_less_than_its_reading_may_be_off_nothing_says_that_light_changed(self):
        doubted = tuple(replace(spot, plus_minus_stops=0.6) for spot in PLANNED)
        for off, light in ((0.3, "as_planned"), (0.5, "read_wrongly"), (0.8, "light_changed")):
            found = check_take(SLIP, doubted, seen(off, 1.8 + off))
            with self.subTest(off):
                self.assertEqual(found.light, light)
                self.assertAlmostEqual(found.change.light_stops, 0 if off == 0.3 else off)

    def test_blur_cast_and_lean_are_said_in_the_order_they_matter(self):
        blurred = seen(
            0.0, 1.8, blur=BlurCause("shake", 8.0, 20.0, shared=1.0), cast_mired=40.0, lean_deg=-2.0
        )
        found = check_take(SLIP, PLANNED, blurred)
        self.assertEqual(found.change.what, "steady")
        self.assertIn("1/2400 s", found.change.words)
        self.assertEqual(len(found.verdict), 3)
        cast = check_take(SLIP, PLANNED, replace(blurred, blur=None))
        self.assertEqual(cast.change.words, WHITE)
        level = check_take(SLIP, PLANNED, replace(blurred, blur=None, cast_mired=3.0))
        self.assertIn("2.0° anticlockwise", level.change.words)
        kinds = {"motion": "freeze", "defocus": "focus"}
        for kind, what in kinds.items():
            ause = check_take(
                SLIP, PLANNED, seen(0, 1.8, blur=BlurCause(kind, 6.0, None, shared=0.1))
            )
            self.assertEqual(ause.change.what, what)


class WhatElseIsOff(unittest.TestCase):
    """What else a take may show: each is reported with its number, and asks for the right thing."""

    def change(self, **more):
        return check_take(SLIP, PLANNED, seen(0.0, 1.8, **more)).change

    def test_each_fault_asks_for_what_mends_it(self):
        for more, what, why, words in (
            ({"bands_share": 0.2}, "bands", "20% deep", "matches the lamp's pulses"),
            ({"cut_off": ("hull",)}, "frame", "hull is cut", "Step back"),
            ({"cut_off": ("hull", "mast")}, "frame", "hull and mast are cut", "Step back"),
            ({"cleaner_stops": -2.0}, "nothing", "4.0× noisier", "or RAW"),
            ({"lean_deg": 1.5}, "level", "Tilted by 1.5°", "1.5° clockwise"),
            ({"cast_mired": -30.0}, "white", "30 mired too cool", "to 6600 K"),
        ):
            with self.subTest(more):
                found = self.change(**more)
                self.assertEqual(found.what, what)
                self.assertIn(why, found.why)
                self.assertIn(words, found.words)

    def test_a_phone_nobody_held_was_moved_and_is_not_to_be_braced(self):
        shaken = BlurCause("shake", 6.0, 20.0, shared=1.0)
        held = self.change(blur=shaken)
        self.assertIn("Camera shake", held.why)
        firm = self.change(blur=shaken, is_firm=True)
        self.assertEqual(firm.what, "steady")
        self.assertIn("moved on its support: everything is smeared by 6 px", firm.why)
        self.assertNotIn("hand", firm.why + firm.words)
        # Out of focus is out of focus, on a tripod too.
        soft = self.change(blur=BlurCause("defocus", 6.0, None, shared=1.0), is_firm=True)
        self.assertEqual(soft.what, "focus")

    def test_what_nobody_sees_asks_for_nothing(self):
        for more in (
            {"bands_share": 0.02},
            {"cleaner_stops": -0.5},
            {"lean_deg": 0.5},
            {"cast_mired": 10.0},
            {"blur": BlurCause("defocus", 1.2, None, shared=1.0)},
        ):
            with self.subTest(more):
                found = self.change(**more)
                self.assertEqual((found.what, found.light_stops), ("nothing", 0.0))

    def test_a_take_dialled_right_with_more_light_follows_the_light(self):
        for off, more in ((1.0, "more"), (-0.5, "less")):
            found = check_take(SLIP, PLANNED, seen(off, 1.8 + off)).change
            self.assertAlmostEqual(found.light_stops, off)
            self.assertIn(more, found.why)


class Measuring(unittest.TestCase):
    def test_what_blurred_it_is_named_with_its_length(self):
        shot = Shots(shipped_scene("white-hull-sun"), 5.0)
        subject = SUBJECTS["white-hull-sun"]
        sharp = shot.taken(CaptureSettings(50.0, shot.shutter_s, 5.0, support="tripod"), 1)
        for kind, px, settings in shot.faults(3):
            take = shot.taken(settings, 3)
            where = aligned(sharp, take)
            self.assertIsNotNone(where)
            is_held = settings.support == "handheld"
            hand_px = shake_blur_px(shot.frame.camera, settings) if is_held else 0.0
            found = blur_of_take(sharp, take, where, subject=subject, hand_px=hand_px)
            with self.subTest(kind, px=px):
                self.assertEqual(found.kind, kind)
                if kind == "defocus":
                    self.assertAlmostEqual(found.px / px, 1, delta=0.15)

    def test_plain_paper_in_a_cleaner_take_has_not_moved(self):
        shot = Shots(shipped_scene("varnish-tins"), 0.8)
        grainy = CaptureSettings(100.0, shot.shutter_s / 2, 0.8, support="tripod")
        noisier = shot.taken(grainy, 1)
        take = shot.taken(replace(grainy, iso=50.0, shutter_s=shot.shutter_s), 2)
        where = aligned(noisier, take)
        for place in ((0.22, 0.86), (0.54, 0.12), (0.13, 0.52), (0.7, 0.32), (0.87, 0.68)):
            found = blur_of_take(noisier, take, where, subject=place, hand_px=None)
            with self.subTest(place):
                self.assertIn(found and found.kind, (None, "none"))

    def test_a_take_is_laid_on_the_picture_it_was_planned_by(self):
        light = np.asarray(shipped_scene("yard-overcast").radiance @ LUMA.astype(np.float32))
        turned = _turned(light, 4.0)
        found = aligned(light, 0.5 * turned)
        self.assertAlmostEqual(found.turn_deg, 4.0, delta=0.1)
        # The middle stays in the middle of what was cut evenly.
        self.assertAlmostEqual(found.place(0.5, 0.5)[0], 0.5, delta=0.003)
        self.assertIsNone(aligned(light, np.flipud(light).copy()[:, ::-1] * 0 + 1))
        other = np.asarray(shipped_scene("bronze-bench").radiance @ LUMA.astype(np.float32))
        self.assertIsNone(aligned(light, other))

    def test_plumb_lines_tell_how_far_a_picture_leans(self):
        light = np.asarray(shipped_scene("yard-overcast").radiance @ LUMA.astype(np.float32))
        plain = lean(light).degrees
        for degrees in (-4.0, 1.5):
            self.assertAlmostEqual(
                lean(_turned(light, degrees)).degrees - plain, degrees, delta=0.3
            )


if __name__ == "__main__":
    unittest.main()
