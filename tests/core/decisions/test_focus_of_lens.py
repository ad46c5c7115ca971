"""Focus: slider, depth, blur, clip-ons and small things, held to laws and to an authority."""

import itertools
import math
import unittest

import numpy as np
from scipy.interpolate import PchipInterpolator

from oxlen.core.decisions.exposure.ask import CLOSEUP, DRAWING, SKY
from oxlen.core.decisions.exposure.scene_ask import Closeup, Drawing, Sky
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.focus.depths import circle_mm, optics_of, stack_distances_m
from oxlen.core.decisions.focus.small_things import small_thing_ways
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.lens.ask import ANY_LENS, LENS
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.solver.steadiness import drift_mm_s
from oxlen.core.errors import BadInput, OutOfRange
from oxlen.core.focus.close_up import close_up, dioptres_of_magnification
from oxlen.core.focus.defocus import blur_disc_mm
from oxlen.core.focus.depth import depth_of_field, focus_between_m
from oxlen.core.focus.local_sharpness import sharpness_map, spot_verdict, verdict_words
from oxlen.core.focus.optics import Optics
from oxlen.core.focus.slider import SliderPoint, SliderScale
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.light.meter import Spot
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze

WHERRY, DABBER = (shipped_profile(phone_id).to_phone() for phone_id in ("wherry-3", "dabber"))
TEN = ClipOn("Ten dioptres", 10.0, "main")
MAIN = Optics(5.66, 1.8)


def scale_of(*pairs):
    return SliderScale(tuple(SliderPoint(value, distance) for value, distance in pairs))


class Slider(unittest.TestCase):
    def test_between_points_as_scipy_has_it(self):
        draw = np.random.default_rng(5)
        for _ in range(40):
            values = np.sort(draw.uniform(0, 1, draw.integers(2, 9)))
            dioptres = np.sort(draw.uniform(0, 12, len(values)))[::-1]
            scale = scale_of(*((v, 1 / d) for v, d in zip(values, dioptres, strict=True)))
            at = np.linspace(values[0], values[-1], 37)
            want = PchipInterpolator(values, dioptres)(at)
            np.testing.assert_allclose(scale.dioptres_at(at.tolist()), want, atol=1e-9)

    def test_there_and_back_and_flat_past_the_ends(self):
        scale = WHERRY.lens("main").focus.scale()
        for distance_m in (0.11, 0.3, 1.0, 4.0, math.inf):
            value = scale.value_for(distance_m)
            self.assertAlmostEqual(1 / scale.distance_at_m(value), 1 / distance_m, delta=0.01)
        self.assertEqual(scale.distance_at_m(0.99), math.inf)
        self.assertIsNone(scale.value_for(0.05))

    def test_a_scale_that_turns_round_is_refused(self):
        rows = [
            ((0, 0.1),),
            ((0, 0.1), (0, 0.2)),
            ((0, 0.1), (0.5, 0.5), (1, 0.2)),
            ((0, 1.0), (1, 1.0)),
        ]
        for pairs in rows:
            with self.subTest(pairs=pairs), self.assertRaises(BadInput):
                scale_of(*pairs)


class Depth(unittest.TestCase):
    def test_at_its_edges_the_blur_is_the_circle(self):
        for clip_on in (0.0, 10.0):
            optics = Optics(5.66, 1.8, clip_on)
            for focused_m in (0.06, 0.09) if clip_on else (0.12, 0.5, 2.0):
                depth = depth_of_field(optics, 0.0068, focused_m)
                for edge_m in (depth.near_m, depth.far_m):
                    disc = blur_disc_mm(optics, focused_m, edge_m)
                    # A clip-on's depth is reckoned in dioptres, its image a little further back.
                    delta = 0.0068 * (0.12 if clip_on else 1e-6)
                    self.assertAlmostEqual(disc, 0.0068, delta=delta)

    def test_a_clip_on_of_no_power_changes_nothing(self):
        bare = close_up(MAIN, 0.5, 8.16)
        self.assertAlmostEqual(bare.distance_m, 0.5)
        self.assertAlmostEqual(bare.magnification, MAIN.magnification(0.5), places=9)
        self.assertEqual(dioptres_of_magnification(2.5), 10.0)
        with self.assertRaises(OutOfRange):
            Optics(5.66, 1.8, 10.0).set_at_m(0.2)

    def test_between_two_distances_both_are_as_sharp(self):
        focused = focus_between_m(0.4, 1.2)
        near, far = (blur_disc_mm(MAIN, focused, phone_id) for phone_id in (0.4, 1.2))
        self.assertAlmostEqual(near, far, places=9)


class Line(unittest.TestCase):
    def line(self, phone=WHERRY, support="tripod", ev100=9.0, **focus):
        made = self.brief(phone, support, ev100=ev100, **focus)
        return plan(made).dialled[FOCUS.name]

    @staticmethod
    def brief(phone=WHERRY, support="tripod", *, ev100=9.0, **focus):
        made = ask_brief(phone, readings=(PlacedReading("subject", ev100, 0.0),), support=support)
        return made.asking(FOCUS, Focus(**focus))

    def test_tapped_where_the_phone_finds_it_and_by_hand_where_it_hunts(self):
        self.assertEqual(self.line(distance_m=2.0).value, "tap")
        near = self.line(distance_m=0.12)
        self.assertEqual(near.unit, "slider")
        self.assertAlmostEqual(near.value, WHERRY.lens("main").focus.scale().value_for(0.12), 1)
        self.assertEqual(near.plus_minus, 0.01)
        self.assertNotEqual(self.line(distance_m=2.0, ev100=-2.0).value, "tap")

    def test_the_slider_value_is_one_it_can_be_left_at(self):
        for distance_m in (0.085, 0.13, 0.4):
            value = self.line(DABBER, strategy="by_hand", distance_m=distance_m).value
            self.assertAlmostEqual(value / 0.5, round(value / 0.5), places=6)

    def test_infinity_is_the_measured_value_not_the_end(self):
        made = self.brief(ev100=-7.0).asking(SKY, Sky())
        self.assertEqual(plan(made).dialled[FOCUS.name].value, 0.93)

    def test_what_is_not_there_yet_is_focused_beforehand(self):
        drawn = self.brief(ev100=-5.0, stand_in="an oar").asking(DRAWING, Drawing())
        self.assertIn("an oar", plan(drawn).dialled[FOCUS.name].reason)
        walker = ask_freeze("walker", Mover(1.4, 6.0), "circle")
        made = ask_brief(WHERRY, readings=(PlacedReading("subject", 12.0, 0.0),), freeze=(walker,))
        self.assertEqual(plan(made).dialled[FOCUS.name].because, "preset")

    def test_too_near_says_what_would_do(self):
        notes = self.line(distance_m=0.06).notes
        self.assertIn("Nearest focus of Main is 10 cm", notes[0])
        self.assertIn("Ultra-wide", notes[0])
        self.assertIn("7 dioptres", notes[0])
        beyond = self.line(distance_m=0.3, clip_on=TEN).notes
        self.assertTrue(any("nothing beyond 10 cm" in note for note in beyond))

    def test_out_of_reach_it_says_where_to_hold_the_phone(self):
        near = self.line(distance_m=0.05)
        self.assertEqual((near.label, near.because), ("0 (10 cm)", "reach"))
        self.assertIn("hold it 10 cm away", near.reason)
        far = self.line(distance_m=0.5, clip_on=TEN)
        self.assertIn("only from 10 cm", far.reason)

    def test_of_any_lens_one_that_focuses_so_near_is_taken(self):
        for distance_m, lens in ((0.05, "ultra-wide"), (0.5, "main")):
            found = plan(self.brief(distance_m=distance_m).asking(LENS, ANY_LENS)).dialled
            with self.subTest(distance_m=distance_m):
                self.assertEqual(found[LENS.name].value, lens)
        self.assertNotIn("focus so near", found[LENS.name].reason)

    def test_focus_and_exposure_at_two_places_are_told_apart(self):
        notes = {}
        for on in ("the crust", "The loaf"):
            loaf = PlacedReading("subject", 9.0, 0.0, name="loaf")
            made = ask_brief(WHERRY, readings=(loaf,)).asking(FOCUS, Focus(on=on))
            notes[on] = " ".join(plan(made).dialled[FOCUS.name].notes)
        self.assertIn("Exposure is for “loaf”, focus for “the crust”", notes["the crust"])
        self.assertNotIn("Two points", notes["The loaf"])

    def test_a_deep_subject_takes_frames_whose_depths_meet(self):
        made = self.brief(near_m=0.1, far_m=0.2)
        stops = stack_distances_m(made, 0.1, 0.2)
        depths = [depth_of_field(optics_of(made), circle_mm(made), stop) for stop in stops]
        self.assertLessEqual(depths[0].near_m, 0.1001)
        self.assertGreaterEqual(depths[-1].far_m, 0.1999)
        for depth, after in itertools.pairwise(depths):
            self.assertGreaterEqual(depth.far_m, after.near_m)
        note = self.line(near_m=0.1, far_m=0.2).notes[1]
        self.assertIn(f"take {len(stops)} frames", note)

    def test_a_step_deeper_than_the_depth_says_to_move_the_phone(self):
        notes = self.line(DABBER, distance_m=0.09, sharp_at="pixel").notes
        self.assertTrue(any("then move the phone" in note for note in notes), notes)

    def test_the_background_is_judged_and_the_phones_own_blur_offered(self):
        soft = self.line(distance_m=1.0, background_m=3.0).notes
        self.assertTrue(any("Soft background" in note for note in soft), soft)
        self.assertTrue(
            any("fully blurred" in n for n in self.line(distance_m=0.1, background_m=9).notes)
        )

    def test_a_clip_on_chooses_its_lens_and_shortens_what_the_hand_holds(self):
        bare = self.brief(support="handheld", distance_m=0.1)
        worn = self.brief(support="handheld", distance_m=0.08, clip_on=TEN)
        self.assertEqual(plan(worn).brief.lens.id, "main")
        self.assertGreater(drift_mm_s(worn), drift_mm_s(bare))
        as_before = self.brief(support="handheld").asking(CLOSEUP, Closeup(distance_m=0.1))
        self.assertAlmostEqual(drift_mm_s(bare), drift_mm_s(as_before))

    def test_small_things_are_compared_by_what_each_way_brings(self):
        made = self.brief(thing_mm=18.0, clip_on=TEN)
        ways = small_thing_ways(made)
        self.assertEqual(sum(way.best for way in ways), 1)
        by_name = {way.way: way for way in ways}
        worn = by_name["Main with “Ten dioptres”"]
        self.assertGreater(worn.across_px, 1.5 * by_name["Main"].across_px)
        self.assertLess(worn.depth_mm, by_name["Main"].depth_mm)
        self.assertEqual(small_thing_ways(self.brief()), ())


class WhereSharp(unittest.TestCase):
    """Texture of one kind, part of it blurred, some of it noise alone."""

    def picture(self, noise=0.0):
        import cv2

        draw = np.random.default_rng(2)
        texture = cv2.blur(draw.uniform(0.2, 1, (512, 512)).astype(np.float32), (2, 2))
        texture[:, 256:] = cv2.GaussianBlur(texture, (0, 0), 2.0)[:, 256:]
        texture[:128, :] = 0.5
        return texture + draw.normal(0, noise, texture.shape).astype(np.float32)

    def test_the_blurred_half_is_softer_and_plain_ground_is_left_open(self):
        for noise in (0.0, 0.01):
            found = sharpness_map(self.picture(noise)).sharpness
            sharp, soft = np.nanmean(found[6:, :7]), np.nanmean(found[6:, 9:])
            self.assertGreater(sharp, 1.5 * soft)
        self.assertTrue(np.isnan(found[:3]).mean() > 0.9)

    def test_a_verdict_names_which_is_sharper(self):
        found = sharpness_map(self.picture())
        on_sharp = spot_verdict(found, Spot("s", 0.2, 0.7, r=0.08))
        on_soft = spot_verdict(found, Spot("s", 0.85, 0.7, r=0.08))
        self.assertGreater(on_sharp.ratio, 0.87)
        self.assertLess(on_soft.ratio, 0.7)
        self.assertIn("Other parts are", verdict_words(on_soft, "the cleat"))
        plain = spot_verdict(found, Spot("s", 0.5, 0.08, r=0.04))
        self.assertIn("Too little detail", verdict_words(plain))
