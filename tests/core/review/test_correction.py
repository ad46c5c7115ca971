"""The correction: what a take showed changes the brief, and the next take is good."""

import unittest
from dataclasses import replace

import numpy as np
from bench.corrections import _case

from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.exposure.ask import HOLD, MOTION
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.frames.alignment import Alignment
from oxlen.core.motion.subject import Mover
from oxlen.core.review.correction import Shown, corrected
from oxlen.core.review.light_ratio import light_ratio_stops
from oxlen.core.review.take_check import check_take
from oxlen.core.review.take_seen import Change, PlannedSpot, SeenSpot, SeenTake, TakeSettings
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze
from tests.core.review.test_take_check import PLANNED, SLIP, seen


def shown(what, **more):
    light = more.pop("light_stops", 0.0)
    return Shown(Change(what, "", "", light_stops=light), **more)


class ChangingTheBrief(unittest.TestCase):
    def setUp(self):
        mover = ask_freeze("dinghy", Mover(2.0, 12.0, 90.0))
        reading = PlacedReading("subject", 11.0, 0.0, name="hull")
        phone = shipped_profile("wherry-3").to_phone()
        self.brief = ask_brief(phone, readings=(reading,), freeze=(mover,))

    def test_each_fault_changes_its_own_thing_and_nothing_else(self):
        rows = {
            "dial": (),
            "nothing": (),
            "level": (),
            "focus": (FOCUS,),
            "white": (LIGHT_COLOUR,),
            "freeze": (MOTION,),
            "steady": (HOLD,),
        }
        for what, asks in rows.items():
            after = corrected(self.brief, shown(what, blur_px=9.0, motion_px=3.0, white_k=4300.0))
            changed = {
                ask.name
                for ask in (FOCUS, LIGHT_COLOUR, MOTION, HOLD)
                if after[ask] != self.brief[ask]
            }
            with self.subTest(what):
                self.assertEqual(changed, {ask.name for ask in asks})

    def test_more_light_shortens_and_what_smeared_thrice_is_thrice_as_fast(self):
        before = plan(self.brief).slip
        lit = plan(corrected(self.brief, shown("light", light_stops=1.0))).slip
        gained = np.log2(before.shutter_s * before.iso / lit.shutter_s / lit.iso)
        self.assertAlmostEqual(gained, 1.0, delta=0.2)
        fast = corrected(self.brief, shown("freeze", blur_px=9.0, motion_px=3.0))
        self.assertAlmostEqual(float(fast[MOTION][0].mover.speed_m_s), 6.0)
        self.assertLess(plan(fast).slip.shutter_s, before.shutter_s / 2)

    def test_a_distance_that_was_wrong_gives_way_to_a_tap(self):
        reported = self.brief.asking(FOCUS, Focus(strategy="by_hand", distance_m=2.0))
        after = corrected(reported, shown("focus"))[FOCUS]
        self.assertEqual((after.strategy, after.distance_m), ("tap", None))


class LostSpots(unittest.TestCase):
    def test_everything_white_is_darkened_beyond_what_is_seen(self):
        spots = (SeenSpot("hull", 2.4, clipped_share=0.9), SeenSpot("sky", 2.5, clipped_share=1.0))
        found = check_take(SLIP, PLANNED, SeenTake(SLIP, spots, is_raw=False))
        self.assertEqual(found.change.what, "light")
        self.assertAlmostEqual(found.change.light_stops, 2.4 + 1.5)

    def test_a_lost_spot_that_the_frame_tells_of_counts(self):
        spots = (
            SeenSpot("hull", 3.0, clipped_share=0.9, is_reckoned=True),
            SeenSpot("sky", 4.8, clipped_share=1.0, is_reckoned=True),
        )
        found = check_take(SLIP, PLANNED, SeenTake(SLIP, spots, is_raw=False))
        self.assertAlmostEqual(found.change.light_stops, 3.0)
        self.assertTrue(found.spots[0].is_lost)

    def test_much_more_white_than_planned_asks_for_a_little_less(self):
        plain = replace(seen(0.0, 1.8), clipped_share=0.15)
        found = check_take(SLIP, PLANNED, plain, white_share=0.01)
        self.assertEqual(found.change.what, "light")
        self.assertAlmostEqual(found.change.light_stops, 0.42)
        self.assertIn("15%", found.change.why)
        as_planned = check_take(SLIP, PLANNED, plain, white_share=0.14)
        self.assertEqual(as_planned.change.what, "nothing")

    def test_in_raw_a_cast_costs_no_second_take(self):
        planned = (PlannedSpot("card", "neutral", 0.0, 0.0),)
        take = SeenTake(
            TakeSettings(50, 1 / 60), (SeenSpot("card", 0.0),), is_raw=True, cast_mired=40
        )
        found = check_take(TakeSettings(50, 1 / 60, 5000.0), planned, take)
        self.assertIn("Correct it in development", found.change.words)
        self.assertAlmostEqual(found.change.white_k, 1e6 / (200 + 40))


class LightRatio(unittest.TestCase):
    def test_it_is_told_by_what_neither_lost(self):
        draw = np.random.default_rng(3)
        light = (0.18 * 2 ** draw.uniform(-4, 2, (300, 400))).astype(np.float32)
        light = np.kron(light[::10, ::10], np.ones((10, 10), np.float32))
        size = (light.shape[1], light.shape[0])
        same = Alignment(np.eye(2, 3), size, size, turn_deg=0.0, scale=1.0, share=1.0)
        for stops in (-2.0, 0.4, 1.5):
            take = np.minimum(light * 2.0**stops, 1.0)
            found = light_ratio_stops(light, take, same)
            self.assertAlmostEqual(found, stops, delta=0.03)
        self.assertIsNone(light_ratio_stops(light, np.ones_like(light), same))


class OneCorrection(unittest.TestCase):
    def test_from_a_wrong_reading_the_second_take_is_good(self):
        for scene, kind in (
            ("tarred-shed", "light"),
            ("white-hull-sun", "lamp"),
            ("yard-overcast", "distance"),
        ):
            case = _case(scene, kind, seed=5)
            with self.subTest(scene, kind=kind, said=case.changes):
                self.assertTrue(case.is_good_after(1), case.lacked)
