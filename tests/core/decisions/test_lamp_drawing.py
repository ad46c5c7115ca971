"""A drawing with a lamp: its path, time, background and line, the rehearsal, the correction."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.decisions.exposure.ask import DRAWING
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.drawing.plan import drawing_plan
from oxlen.core.errors import BadInput
from oxlen.core.motion.strokes import globe_luminance_cd_m2, strokes_of
from oxlen.core.review.drawing_take import corrected_drawing, seen_drawing
from oxlen.core.simulate.lamp_line import lamp_line
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()
BOX = (0.2, 0.2, 0.8, 0.8)


def planned(ambient=-7.0, **how):
    wall = PlacedReading("keep-dark", ambient, name="wall")
    made = ask_brief(WHERRY, readings=(wall,), support="tripod", lens_id="main")
    return drawing_plan(made.asking(DRAWING, Drawing(**{"what": "heart", **how})))


class TheWay(unittest.TestCase):
    def test_ways_are_as_long_as_their_shapes(self):
        for what, lit, dark in (
            ("circle", np.pi, 0.0),
            ("L", 1 + 4 / 6, 0.0),
            # Two bars of the height, and a bar across; the hand passes up and over between them.
            ("H", 1 + 1 + 4 / 6, np.hypot(0, 3) / 6 + np.hypot(0, 3) / 6),
        ):
            with self.subTest(what):
                found = strokes_of(what)
                self.assertAlmostEqual(found.lit_length, lit, delta=0.01)
                self.assertAlmostEqual(found.dark_length, dark, delta=0.01)

    def test_words_have_room_between_their_letters_and_unknown_ones_are_named(self):
        lit, two = strokes_of("O"), strokes_of("OO")
        self.assertAlmostEqual(two.width - 2 * lit.width, 1.6 / 6)
        self.assertAlmostEqual(strokes_of("o o").width - two.width, 4 / 6)
        with self.assertRaisesRegex(BadInput, "Ж"):
            strokes_of("OЖ")
        with self.assertRaises(BadInput):
            strokes_of("  ")

    def test_sharp_corners_are_paced_and_bends_are_not(self):
        self.assertEqual(len(strokes_of("L").corners()), 1)
        self.assertEqual(len(strokes_of("star").corners()), 4)
        self.assertEqual(len(strokes_of("circle").corners()), 0)


class ThePlan(unittest.TestCase):
    def test_the_shutter_is_the_shortest_step_that_holds_the_drawing(self):
        for height, hand in ((0.3, 0.5), (0.6, 0.6), (1.0, 0.4)):
            found = planned(height_m=height, hand_m_s=hand)
            path = strokes_of("heart").length * height
            self.assertAlmostEqual(found.draws_s, path / hand + 2.0)
            self.assertGreaterEqual(found.shutter_s, found.draws_s)
            self.assertLessEqual(found.shutter_s, 1.35 * found.draws_s)

    def test_the_line_gains_by_a_slower_hand_and_not_by_a_longer_shutter(self):
        base = planned()
        self.assertAlmostEqual(planned(hand_m_s=0.3).trail_stops - base.trail_stops, 1.0)
        self.assertAlmostEqual(planned(dim_stops=3.0).trail_stops - base.trail_stops, -3.0)
        longer = planned(margin_s=5.0)
        self.assertGreater(longer.shutter_s, base.shutter_s)
        self.assertEqual(longer.trail_stops, base.trail_stops)
        self.assertAlmostEqual(globe_luminance_cd_m2(20, 0.02), 20 / (np.pi * 0.02) ** 2)

    def test_the_ground_doubles_with_the_time_and_is_a_ceiling(self):
        found = planned()
        times, levels = np.array(found.curve).T
        np.testing.assert_allclose(np.diff(levels), np.diff(np.log2(times)), atol=1e-6)
        at_limit = np.interp(np.log2(found.black_s), np.log2(times), levels)
        self.assertAlmostEqual(at_limit, -6.0, delta=0.05)
        lit = planned(ambient=-2.0, height_m=1.0)
        self.assertIsNone(lit.shutter_s)
        self.assertIn("more frames", " ".join(lit.advice))
        parts = planned(ambient=-4.5, height_m=1.0, parts=3)
        self.assertLess(parts.draws_s, planned(ambient=-4.5, height_m=1.0).draws_s)

    def test_each_colour_is_a_frame_with_its_part_of_the_way(self):
        found = planned(what="BOAT", colours=("red", "blue"), parts=4)
        self.assertEqual(
            [lamp_pass.colour for lamp_pass in found.passes], ["red", "blue", "red", "blue"]
        )
        lit = [lamp_pass.strokes.lit_length for lamp_pass in found.passes]
        self.assertAlmostEqual(sum(lit), strokes_of("BOAT").lit_length)
        # A letter is not cut where its end is near.
        letters = strokes_of("HI").in_parts(2)
        self.assertEqual([len(letter.lit) for letter in letters], [2, 2])
        self.assertEqual(max(lamp_pass.draws_s for lamp_pass in found.passes), found.draws_s)
        for lamp_pass in found.passes:
            self.assertEqual(lamp_pass.cues[-1].at_s, found.shutter_s)
        thirds = strokes_of("circle").in_parts(3)
        np.testing.assert_allclose([third.lit_length for third in thirds], np.pi / 3, rtol=1e-3)
        np.testing.assert_array_equal(thirds[0].lit[0][-1], thirds[1].lit[0][0])
        with self.assertRaisesRegex(BadInput, "colour"):
            Drawing(what="heart", colours=())

    def test_parts_lie_where_they_lie_in_the_whole(self):
        ground = np.zeros((240, 320, 3), dtype=np.float32)
        how = {"height_share": 0.5, "level_stops": 0.0, "wide_px": 2.0}
        whole = lamp_line(ground, strokes_of("boat"), **how)
        parts = [
            lamp_line(ground, strokes_of("boat"), part=lit, colour=colour, **how)
            for lit, colour in zip(strokes_of("boat").in_parts(2), ("red", "blue"), strict=True)
        ]
        together = np.maximum(*parts)
        line = whole[..., 0] > 0.05
        self.assertTrue((together.max(axis=2)[line] > 0.02).all())
        self.assertGreater(parts[0][..., 0].max(), 5 * parts[0][..., 2].max())
        self.assertGreater(parts[1][..., 2].max(), 4 * parts[1][..., 0].max())

    def test_cues_follow_the_strokes_and_end_with_the_shutter(self):
        found = planned(what="H", hand_m_s=0.5)
        cues = [(cue.sound, round(cue.at_s, 2)) for cue in found.passes[0].cues]
        self.assertEqual(cues[0], ("open", 0.0))
        self.assertEqual(cues[1], ("on", 1.0))
        self.assertEqual(cues[2], ("off", 2.0))  # half a metre at half a metre a second
        self.assertEqual([sound for sound, _ in cues].count("on"), 3)
        self.assertEqual(cues[-1], ("end", found.shutter_s))
        self.assertEqual(sorted(cues, key=lambda cue: cue[1]), cues)

    def test_what_does_not_fit_the_frame_says_how_far_it_would(self):
        wide = planned(what="KETTLE REACH", height_m=0.6)
        self.assertFalse(wide.room.fits)
        self.assertIn("m away", wide.room.words)
        self.assertEqual(wide.advice[0], wide.room.words)


class AfterTheTake(unittest.TestCase):
    def take(self, *, ground=-7.5, line=2.0, height=0.5, tail=False, what="heart"):
        frame = np.full((360, 480, 3), 0.18 * 2.0**ground, dtype=np.float32)
        drawn = lamp_line(
            frame, strokes_of(what), height_share=height, level_stops=line, wide_px=3.0
        )
        if tail:
            drawn[290:350, 236:246] = 0.18 * 2.0**line
        return np.clip(drawn.mean(axis=2), 0, 1).astype(np.float32)

    def test_each_fault_is_named_and_one_is_changed_for_it(self):
        asked = Drawing(what="heart", dim_stops=3.0)
        for how, words, field in (
            ({}, "As planned", None),
            ({"ground": -3.0}, "The background is visible, 3.0 stops under mid", "parts"),
            ({"line": 5.0}, "line clips", "dim_stops"),
            ({"line": -1.6}, "thin", "dim_stops"),
            ({"height": 1.1}, "left the frame", "height_m"),
            ({"tail": True}, "tail is visible", "margin_s"),
        ):
            with self.subTest(words):
                seen = seen_drawing(self.take(**how), BOX)
                reported = corrected_drawing(seen, asked)
                self.assertIn(words, reported.words[0])
                changed = [n for n, v in vars(reported.drawing).items() if v != getattr(asked, n)]
                self.assertEqual(changed, [] if field is None else [field])

    def test_no_line_is_said_plainly(self):
        dark = np.full((100, 120), 0.001, dtype=np.float32)
        reported = corrected_drawing(seen_drawing(dark, BOX), Drawing(what="heart"))
        self.assertIn("No line visible", reported.words[0])
        self.assertEqual(replace(reported.drawing), Drawing(what="heart"))
