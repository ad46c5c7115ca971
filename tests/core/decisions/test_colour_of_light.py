"""The colour of light: against an independent authority, and what is dialled for it."""

import contextlib
import io
import math
import unittest
import warnings
from dataclasses import replace

import numpy as np

from oxlen.core.colour.adaptation import adapted, xyz_of
from oxlen.core.colour.camera_neutral import ColourMatrix, camera_neutral_light, matrix_at
from oxlen.core.colour.clipped_patch import cast_of_clipped
from oxlen.core.colour.daylight import daylight_xy, dial_white_xy
from oxlen.core.colour.patch import PICTURE_WHITE
from oxlen.core.colour.planckian import xy_to_uv
from oxlen.core.colour.temperature import Temperature, chromaticity_of, temperature_of
from oxlen.core.colour.tone_colour import raw_tone
from oxlen.core.colour.usual_light import USUAL_LIGHTS
from oxlen.core.colour.white_point import SRGB_TO_XYZ
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour, LitBy, MeasuredPatch
from oxlen.core.decisions.colour.decision import WHITE, white_choice
from oxlen.core.decisions.exposure.ask import SKY
from oxlen.core.decisions.exposure.scene_ask import Sky
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import BadInput, OutOfRange
from oxlen.core.kit.white_dial import WhiteDial
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

with warnings.catch_warnings(), contextlib.redirect_stderr(io.StringIO()):
    warnings.simplefilter("ignore")  # it misses drawing packages, which nobody needs here
    import colour

WHERRY, DABBER = (shipped_profile(phone_id).to_phone() for phone_id in ("wherry-3", "dabber"))
PANEL = LitBy("the panel", 5600.0, cri=96.0, share=3.0, zone="the bench")
BULB = LitBy("the bulb", 2750.0, cri=80.0)


class AgainstColourScience(unittest.TestCase):
    """colour-science 0.4.7 as the independent authority."""

    def test_temperatures_and_the_way_back(self):
        for cct_k in (1500, 2000, 2856, 4000, 5500, 6504, 9000, 15_000):
            for duv in (-0.02, -0.005, 0.0, 0.003, 0.02):
                u, v = colour.temperature.CCT_to_uv_Ohno2013(np.array([cct_k, duv]))
                x, y = colour.UCS_uv_to_xy(np.array([u, v]))
                with self.subTest(cct_k=cct_k, duv=duv):
                    found = temperature_of(x, y)
                    self.assertAlmostEqual(1e6 / found.cct_k, 1e6 / cct_k, delta=0.2)
                    self.assertAlmostEqual(found.duv, duv, delta=3e-5)
                    back = chromaticity_of(Temperature(cct_k, duv))
                    np.testing.assert_allclose(xy_to_uv(*back), (u, v), atol=3e-5)

    def test_daylight_and_adaptation(self):
        for cct_k in (4000, 5003, 7000, 12_000, 25_000):
            want = colour.temperature.CCT_to_xy_CIE_D(cct_k)
            np.testing.assert_allclose(daylight_xy(cct_k), want, atol=1e-9)
        seen, white, to = (0.42, 0.41), (0.4475, 0.4074), (0.3127, 0.3290)
        want = colour.adaptation.chromatic_adaptation_VonKries(
            xyz_of(*seen), xyz_of(*white), xyz_of(*to), transform="Bradford"
        )
        np.testing.assert_allclose(adapted(xyz_of(*seen), white, to), want, atol=2e-4)

    def test_what_is_no_light_is_refused(self):
        for x, y in ((0.7, 0.29), (0.2, 0.05), (-0.1, 0.3), (float("nan"), 0.3)):
            with self.subTest(x=x), self.assertRaises(OutOfRange):
                temperature_of(x, y)


class CameraNeutral(unittest.TestCase):
    WARM = ColourMatrix(np.array([[1.1, -0.4, -0.1], [-0.3, 1.2, 0.1], [0.0, 0.2, 0.6]]), 2856.0)
    COLD = ColourMatrix(np.array([[0.8, -0.2, -0.1], [-0.4, 1.3, 0.1], [-0.1, 0.3, 0.7]]), 6504.0)

    def test_it_goes_round_to_the_light_that_gave_it(self):
        for cct_k in (2400, 2856, 3500, 5000, 6504, 9000):
            x, y = dial_white_xy(cct_k)
            at = temperature_of(x, y).cct_k
            neutral = matrix_at(at, (self.WARM, self.COLD)) @ xyz_of(x, y)
            found = camera_neutral_light(neutral, (self.WARM, self.COLD))
            self.assertAlmostEqual(1e6 / found.temperature.cct_k, 1e6 / at, delta=0.1)

    def test_a_colour_no_light_has_is_refused(self):
        with self.assertRaisesRegex(BadInput, "not neutral"):
            camera_neutral_light(np.array([1.0, 0.01, 0.01]), (self.COLD,))

    def test_a_raw_tone_is_shown_as_a_picture_balanced_for_daylight_would(self):
        grey = raw_tone(self.COLD.xyz_to_camera @ xyz_of(0.3127, 0.3290) * 40, (self.COLD,))
        for channel in grey.linear_srgb:
            self.assertAlmostEqual(channel, 0.2, delta=0.002)


class ClippedPatch(unittest.TestCase):
    """One clipped channel of a neutral: its cast is that of the same patch exposed for less."""

    def test_the_other_two_channels_give_the_cast_of_the_patch_unclipped(self):
        for light_k in (2700, 3200, 4000, 6500, 9000):
            white = adapted(xyz_of(*dial_white_xy(light_k)), dial_white_xy(5000), PICTURE_WHITE)
            rgb = np.linalg.solve(SRGB_TO_XYZ, white)
            clipped = np.minimum(rgb / np.median(rgb) * 0.85, 1.0)
            with self.subTest(light_k):
                # By definition 1e6 / K; at 4000 K black bodies and daylight are 10 mired apart.
                wanted = 1e6 / light_k - 1e6 / 5000
                delta = 10.0 if light_k == 4000 else 2.0
                self.assertAlmostEqual(cast_of_clipped(clipped, 5000.0), wanted, delta=delta)

    def test_with_two_channels_clipped_nothing_tells(self):
        self.assertIsNone(cast_of_clipped(np.array([1.0, 0.96, 0.6]), 5000.0))


class Dialled(unittest.TestCase):
    def line(self, phone=WHERRY, file_format="processed", **asked):
        reading = PlacedReading("subject", 9.0, 0.0)
        made = ask_brief(phone, readings=(reading,), support="tripod", file_format=file_format)
        return plan(made.asking(LIGHT_COLOUR, LightColour(**asked))).dialled[WHITE]

    def test_every_setting_is_one_the_phone_has_and_says_how_far_it_is_off(self):
        for phone in (WHERRY, DABBER):
            for usual in USUAL_LIGHTS:
                line = self.line(phone, usual=usual.id, strategy="dial")
                with self.subTest(phone.id, usual=usual.id):
                    self.assertIn(line.value, phone.white.steps_k)
                    residual = 1e6 / usual.cct_k - 1e6 / line.value
                    self.assertAlmostEqual(line.figures["residual_mired"], residual, delta=0.5)
                    if phone.white.low_k < usual.cct_k < phone.white.high_k:
                        self.assertLessEqual(abs(residual), phone.white.coarsest_mired / 2 + 0.1)

    def test_a_patch_goes_before_lamps_and_lamps_before_what_is_usual(self):
        patch = MeasuredPatch(4310.0, plus_minus_mired=6.0)
        rows = [
            ({"usual": "overcast"}, 6500),
            ({"usual": "overcast", "lamps": (PANEL,)}, 5600),
            ({"usual": "overcast", "lamps": (PANEL,), "patch": patch}, 4300),
            ({"strategy": "dial", "lamps": (PANEL,), "patch": patch}, 5600),
        ]
        for asked, want in rows:
            with self.subTest(want=want):
                self.assertEqual(self.line(**asked).value, want)

    def test_an_own_dial_that_is_off_is_made_good_and_its_doubt_told(self):
        # It renders 20 mired warmer than it says: 5000 K (200 mired) is had at 220 mired.
        off = replace(DABBER.white, offset_mired=20.0, plus_minus_mired=30.0)
        line = self.line(replace(DABBER, white=off), usual="sun", strategy="dial")
        true = self.line(DABBER, usual="sun", strategy="dial")
        self.assertAlmostEqual(1e6 / line.value - 1e6 / true.value, 20, delta=12)
        warmer = 1e6 / line.figures["light_k"] - 1e6 / line.value + 20
        self.assertAlmostEqual(line.figures["residual_mired"], warmer, delta=0.01)
        self.assertAlmostEqual(line.plus_minus, math.hypot(true.plus_minus, 30))
        self.assertEqual(line.why_plus_minus, "mostly how accurate the phone's dial is")

    def test_mood_is_in_mired_and_warmer_means_a_higher_dial(self):
        for mood in (-40.0, 20.0, 60.0):
            line = self.line(usual="low-sun", mood_mired=mood, mood_reason="evening")
            warmth = 1e6 / 3900 - 1e6 / line.value
            self.assertAlmostEqual(warmth, mood, delta=5)
            self.assertIn("evening", line.reason)

    def test_lamps_too_far_apart_are_not_averaged(self):
        line = self.line(lamps=(PANEL, BULB))
        self.assertEqual(line.value, 5600)
        self.assertIn("185 mired apart", line.notes[0])
        self.assertIn("suits the bench", line.notes[0])
        self.assertTrue(any("CRI" in note for note in line.notes))
        near = LitBy("the other panel", 5200.0)
        mixed = self.line(lamps=(PANEL, near))
        self.assertTrue(5200 < mixed.value < 5600, mixed.value)

    def test_left_for_raw_or_unknown_it_is_auto_and_says_why(self):
        self.assertEqual(self.line().value, "auto")
        self.assertIn("measure a patch", self.line().reason)
        left = self.line(file_format="raw", usual="sun", strategy="leave")
        self.assertEqual((left.value, left.because), ("auto", "leave"))
        processed = self.line(usual="sun", strategy="leave")
        self.assertIn("keep the phone's choice", processed.reason)

    def test_light_that_is_the_picture_keeps_most_of_its_colour(self):
        # 0.15 of the way in mired from daylight of 5500 K to the sunset's 2800 K, as it was seen; a
        # third of the way to the blue hour.
        self.assertEqual(self.line(usual="sunset").value, 4800)
        self.assertEqual(self.line(usual="blue-hour").value, 6400)
        self.assertEqual(self.line(usual="sunset", strategy="dial").value, 2800)
        self.assertIn("kept warm", self.line(usual="lantern").reason)

    def test_a_guess_in_a_processed_file_asks_for_a_set(self):
        self.assertIn("or save RAW", self.line(usual="sunset").notes[-1])
        self.assertEqual(self.line(usual="sunset", file_format="raw").notes, ())

    def test_coloured_ground_without_a_neutral_asks_for_a_white_strip(self):
        notes = self.line(usual="sun", ground="coloured").notes
        self.assertIn("crop to 3876 × 3060", notes[0])
        self.assertEqual(self.line(usual="sun", ground="coloured", neutral_in_frame=True).notes, ())

    def test_the_night_sky_has_a_usual_white(self):
        reading = PlacedReading("keep-dark", -7.0, -3.0)
        made = ask_brief(WHERRY, readings=(reading,), support="tripod", file_format="raw")
        self.assertEqual(white_choice(made.asking(SKY, Sky())).dialled.dial_k, 4000)

    def test_tint_goes_against_green_and_only_where_there_is_one(self):
        dial = WhiteDial(tint_most=50, tint_duv=0.0004)
        green = dial.nearest(4000.0, duv=0.012)
        self.assertGreater(green.tint, 10)
        self.assertLess(dial.nearest(4000.0, duv=-0.01).tint, -10)
        self.assertIsNone(WhiteDial().nearest(4000.0, duv=0.012).tint)
