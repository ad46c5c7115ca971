"""How likely a take is to work and to belong to a sheet; shapes lamp drawing."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.decisions.chance import chance_of
from oxlen.core.decisions.framework.brief import PlacedReading, SceneTones
from oxlen.core.decisions.plan import plan
from oxlen.core.hold.burst import share_sharp
from oxlen.core.motion.strokes import SHAPES, image_speed_mm_s
from oxlen.core.review.sheet_proposal import SheetFacts, ShotFacts, proposals
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

PHONE = shipped_profile("wherry-3").to_phone()
SHEET = SheetFacts(1, ((100, 1 / 250), (50, 1 / 125)), 24.0, used_s=(1000.0,), model="Wherry 3")


def only(**said):
    """The proposal of a shot that says so much, beside a sheet of another day, lens and phone."""
    found = proposals(
        ShotFacts(**said), [SHEET, SheetFacts(2, ((3200, 4.0),), 70.0, (9e8,), "Dab")]
    )
    return [(match.sheet_id, round(match.score, 2), match.why) for match in found]


class Belonging(unittest.TestCase):
    def test_what_speaks_for_a_sheet_adds_up_and_says_so(self):
        as_slip = {"iso": 100, "shutter_s": 1 / 250}
        self.assertEqual(only(**as_slip), [(1, 3.0, "same settings as its slip")])
        self.assertEqual(only(iso=112, shutter_s=1 / 250)[0][1], 3.0)
        near = only(iso=100, shutter_s=1 / 125, taken_s=1000.0 + 60)
        self.assertEqual(near[0][0], 1)
        self.assertIn("settings near its slip and 1 min from its picture", near[0][2])
        whole = only(**as_slip, taken_s=1000.0, focal35_mm=25.0, model="Wherry 3")
        self.assertIn("same lens", whole[0][2])
        self.assertIn("same phone", whole[0][2])
        self.assertGreater(whole[0][1], near[0][1])

    def test_another_lens_speaks_against_it_and_little_is_no_proposal(self):
        as_slip = {"iso": 100, "shutter_s": 1 / 250}
        with_lens, other = only(**as_slip, focal35_mm=24.0), only(**as_slip, focal35_mm=70.0)
        self.assertGreater(with_lens[0][1], 3.0)
        self.assertTrue(not other or other[0][1] < 3.0)
        for little in ({}, {"model": "Wherry 3"}, {"iso": 100}, {"taken_s": 1000.0 + 20 * 3600}):
            self.assertEqual(only(**little), [])

    def test_the_sooner_after_its_use_the_likelier_and_the_likeliest_comes_first(self):
        scores = [
            only(iso=100, shutter_s=1 / 250, taken_s=1000.0 + s)[0][1] for s in (0, 900, 2600)
        ]
        self.assertEqual(scores, sorted(scores, reverse=True))
        both = [SHEET, SheetFacts(3, ((100, 1 / 250),))]
        found = proposals(ShotFacts(100, 1 / 250, taken_s=1000.0), both)
        self.assertEqual([match.sheet_id for match in found], [1, 3])


class Chances(unittest.TestCase):
    def planned(self, support, **reading):
        eading = PlacedReading("subject", 6.0, 0.0, **reading)
        return plan(ask_brief(PHONE, readings=(eading,), support=support))

    def test_on_a_tripod_only_the_reading_may_be_off(self):
        for doubt, within in ((2.0, 1.0), (1.0, 0.5), (3.0, 1.0)):
            decided = self.planned("tripod", plus_minus_stops=doubt, within_stops=within)
            miss = next(spot.misses_stops for spot in decided.outcome)
            drawn = np.random.default_rng(1).normal(miss, doubt / 2, 200_000)
            found = chance_of(decided)
            self.assertAlmostEqual(
                found.share, float(np.mean(np.abs(drawn) <= within)), delta=0.005
            )
            tested = np.random.default_rng(1).normal(miss, 0.15, 200_000)
            wanted = min(0.97, float(np.mean(np.abs(tested) <= within)))
            self.assertAlmostEqual(found.tested_share, wanted, delta=0.005)
            self.assertIn("After a test shot", found.words)

    def test_handheld_the_hand_counts_too(self):
        held, stood = (
            chance_of(self.planned(how, plus_minus_stops=2.0)) for how in ("handheld", "tripod")
        )
        self.assertLessEqual(held.share, stood.share + 1e-9)
        self.assertGreaterEqual(held.share, stood.share * share_sharp(0.0) - 0.02)

    def test_a_sure_reading_on_a_tripod_is_as_sure_as_anything(self):
        found = chance_of(self.planned("tripod", plus_minus_stops=0.0))
        self.assertEqual((found.share, found.tested_share), (0.97, 0.97))
        self.assertEqual(found.words, "About 97 of 100 shots work.")


class Shapes(unittest.TestCase):
    def test_a_heart_is_the_same_left_and_right_and_stands_on_its_tip(self):
        (heart,) = SHAPES["heart"]
        middle = float(heart[:, 0].max()) / 2
        mirrored = np.column_stack([2 * middle - heart[:, 0], heart[:, 1]])[::-1]
        np.testing.assert_allclose(mirrored, heart, atol=1e-9)
        tip = heart[int(np.argmax(heart[:, 1]))]
        self.assertAlmostEqual(tip[0], middle, delta=0.03)
        self.assertAlmostEqual(float(heart[:, 1].max()), 1.0)
        self.assertAlmostEqual(float(heart[:, 0].max()), 32 / 29, delta=0.03)

    def test_a_star_has_five_points_on_a_circle_and_every_shape_but_the_spiral_closes(self):
        (star,) = SHAPES["star"]
        self.assertEqual(len({tuple(np.round(match, 6)) for match in star}), 5)
        np.testing.assert_allclose(np.hypot(*(star - 0.5).T), 0.5)
        self.assertAlmostEqual(star[0][1], 0.0)
        for name, parts in SHAPES.items():
            for match in parts[:1] if name != "spiral" else ():  # a boat's sail is on its mast
                np.testing.assert_allclose(match[0], match[-1], atol=1e-6, err_msg=name)
        (spiral,) = SHAPES["spiral"]
        out = np.hypot(*(spiral - 0.5).T)
        self.assertTrue(np.all(np.diff(out) > 0))

    def test_an_image_moves_as_much_slower_as_it_is_smaller(self):
        self.assertAlmostEqual(image_speed_mm_s(1.0, 5.0, 10.0), 2.0)
        self.assertAlmostEqual(image_speed_mm_s(2.0, 5.0, 10.0), 4.0)
        self.assertAlmostEqual(image_speed_mm_s(1.0, 10.0, 10.0), 1.0)


class OtherLight(unittest.TestCase):
    def test_a_frames_tones_move_with_the_light(self):
        tones = SceneTones((8.0, 9.0, 10.0), (0.4, 0.6), 0.0)
        brief = ask_brief(PHONE, readings=(PlacedReading("subject", 9.0),))
        brief = replace(brief, tones_measured=tones, mean_measured_ev100=9.2)
        self.assertEqual(brief.tones, tones)
        lit = brief.lit(1.5)
        self.assertEqual(lit.tones.edges_ev100, (9.5, 10.5, 11.5))
        self.assertEqual(lit.tones.shares, tones.shares)
        self.assertAlmostEqual(lit.scene_mean_ev100, 10.7)
        self.assertIsNone(replace(brief, tones_measured=None).lit(1.0).tones)
