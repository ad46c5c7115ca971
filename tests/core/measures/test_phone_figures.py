"""Results of a phone's own measurements, against phones whose figures are known."""

import math
import unittest

import numpy as np

from oxlen.core.decisions.plan import plan
from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.kit.file_optics import pitch_of_written
from oxlen.core.kit.nominal_steps import iso_steps, shutter_steps
from oxlen.core.light.tone import srgb_to_linear
from oxlen.core.measures.bands import bands_in, readout
from oxlen.core.measures.blur_spectrum import detail_power, sharpest, smear_px
from oxlen.core.measures.computed_run import ComputedPicture, computed_run
from oxlen.core.measures.flat_pairs import FlatFrame, flat_pairs
from oxlen.core.measures.hand_curve import HandShot, hand_curve, hand_measured
from oxlen.core.measures.headroom import WallFrame, headroom
from oxlen.core.measures.level import file_weight, kelvin_dial, meter_offset
from oxlen.core.measures.pace import Stamp, pace
from oxlen.core.sensor.noise_profile import base_well_e, declared_noise
from oxlen.devices.standins.mystery_phone import mystery_phone
from oxlen.devices.standins.mystery_pictures import blur_of_hand, patterned_wall
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.plan.brief import BriefFile


class Optics(unittest.TestCase):
    def test_pitch_from_focal_lengths_lies_within_what_rounding_hides(self):
        for profile in shipped_profiles().values():
            for lens in profile.lenses:
                for mode in lens.modes:
                    with self.subTest(profile.id, lens=lens.id, mode=mode.id):
                        found = pitch_of_written(
                            lens.focal_mm,
                            lens.focal35_mm,
                            width_px=mode.width_px,
                            height_px=mode.height_px,
                        )
                        off = abs(found.pitch_um - mode.pixel_pitch_um)
                        self.assertLess(off, found.plus_minus_um + 0.05 * mode.pixel_pitch_um)

    def test_a_declared_noise_model_gives_well_and_read_noise_back(self):
        # 6000 e⁻ at white, 3 e⁻ read: variance on a scale of 1 is x/6000 + (3/6000)².
        found = declared_noise(1 / 6000, 2.5e-7)
        self.assertAlmostEqual(found.white_e, 6000)
        self.assertAlmostEqual(found.read_noise_e, 3.0)
        self.assertAlmostEqual(base_well_e(found.white_e, 400, 50), 48_000)


class Steps(unittest.TestCase):
    def test_steps_are_the_customary_ones_between_the_ends_that_were_said(self):
        self.assertEqual(iso_steps(50, 100), (50, 64, 80, 100))
        self.assertEqual(iso_steps(100, 1600, "wholes"), (100, 200, 400, 800, 1600))
        self.assertEqual(len(iso_steps(100, 1600, "halves")), 9)
        times = shutter_steps(1 / 8000, 30)
        self.assertEqual((times[0], times[-1]), (1 / 8000, 30))
        apart = np.diff(np.log2(times))
        self.assertLess(apart.max(), 0.5)
        self.assertGreater(apart.min(), 0.15)
        # The table of the shipped phone, written by hand, has the same steps in between.
        own = shipped_profiles()["wherry-3"].ladders["by-hand"].shutter_s
        inner = [t for t in own if 1 / 8000 < t < 30]
        np.testing.assert_allclose(times[1:-1], inner, rtol=0.03)

    def test_ends_the_wrong_way_about_are_refused(self):
        with self.assertRaisesRegex(BadInput, "above the smallest"):
            iso_steps(400, 100)


class FlatFrames(unittest.TestCase):
    """Frames drawn from known gains: photons by Poisson, read noise normal."""

    def frames(self, gain, read_e, *, iso=100.0, seed=1):
        draw = np.random.default_rng(seed)
        levels = [(0, 0.02), (0, 0.02), (900, 0.05), (900, 0.05), (2600, 0.1), (2600, 0.1)]
        for electrons, shutter_s in levels:
            light = draw.poisson(electrons, (160, 160)) + draw.normal(0, read_e, (160, 160))
            patch = np.round(256 + gain * light)
            yield FlatFrame(iso, shutter_s, black_dn=256, white_dn=16380, patch=patch)

    def test_gain_and_read_noise_come_back(self):
        frames = [*self.frames(2.0, 3.0), *self.frames(8.0, 2.0, iso=400.0, seed=2)]
        found = flat_pairs(frames, base_iso=100, pixel_pitch_um=1.2)
        well, noise = found.figures
        self.assertLess(abs(well.value / (16124 / 2.0) - 1), 0.03)
        self.assertEqual([iso for iso, _ in noise.value], [100, 400])
        for (_, measured), true in zip(noise.value, (3.0, 2.0), strict=True):
            self.assertLess(abs(measured / true - 1), 0.10)
        self.assertEqual(found.doubts, ())

    def test_what_physics_speaks_against_is_questioned(self):
        falling = [*self.frames(8.0, 2.0), *self.frames(2.0, 2.0, iso=400.0)]
        words = " ".join(flat_pairs(falling, base_iso=100, pixel_pitch_um=0.2).doubts)
        self.assertIn("Gain falls from ISO 100 to 400", words)
        self.assertIn("is not possible", words)

    def test_what_is_missing_is_named(self):
        frames = list(self.frames(2.0, 3.0))
        with self.assertRaisesRegex(BadInput, "ISO 100 needs two frames with the lens covered"):
            flat_pairs(frames[2:], base_iso=100, pixel_pitch_um=1.2)
        with self.assertRaisesRegex(BadInput, "needs two equal frames"):
            flat_pairs(frames[:3], base_iso=100, pixel_pitch_um=1.2)


class Hand(unittest.TestCase):
    def test_the_limit_comes_out_of_blur_for_many_hands(self):
        within, covered = [], []
        for seed in range(60):
            phone = mystery_phone(seed)
            draw = np.random.default_rng([seed, 5])
            limit_s = float(hand_limit_s(phone.lens.focal35_mm, phone.hidden.hand_stops))
            times = 2.0 ** np.linspace(-1, 5.5, 48) / phone.lens.focal35_mm
            sharp_px = math.hypot(phone.mode.width_px, phone.mode.height_px) / 1500
            shots = [
                HandShot(float(t), blur_of_hand(phone, float(t), support="handheld", draw=draw))
                for t in times
            ]
            found = hand_curve(shots, sharp_px=sharp_px, floor_px=1.5)
            off = abs(math.log2(found.limit_s / limit_s))
            within.append(off <= 0.3)
            covered.append(off <= found.plus_minus_stops)
        self.assertGreaterEqual(np.mean(within), 0.85)
        self.assertTrue(0.85 <= np.mean(covered) <= 0.99, np.mean(covered))

    def test_blur_is_read_off_a_wall_whatever_its_direction(self):
        phone, draw = mystery_phone(3, size=(384, 384)), np.random.default_rng(8)

        def power(smear_px):
            picture = patterned_wall(phone, smear_px, draw)
            return detail_power(srgb_to_linear(picture.astype(float) / 255))

        wall = sharpest([power(0.0) for _ in range(4)])
        for length in (2.5, 4.0, 8.0, 14.0):
            found = [smear_px(power(length), wall) for _ in range(3)]
            with self.subTest(length):
                self.assertLess(abs(math.log2(np.median(found) / length)), 0.12)

    def test_a_tripod_bounds_the_time_only_where_it_shakes(self):
        about = {
            "support": "tripod",
            "focal35_mm": 25.0,
            "stabiliser_stops": 2.0,
            "sharp_px": 3.3,
            "floor_px": 1.5,
        }
        times = [2.0**k for k in range(-4, 4) for _ in range(2)]
        still = hand_measured([HandShot(t, 0.5) for t in times], **about)
        self.assertEqual(still.figures, ())
        self.assertIn("16 of 16 shots are sharp, up to 8 s", still.words)
        shaken = hand_measured([HandShot(t, 3.3 * t) for t in times], **about)
        profile = shipped_profiles()["wherry-3"]
        lens = profile.lenses[0].model_copy(update={"tripod_stops": shaken.figures[0].value})
        profile = profile.model_copy(update={"lenses": [lens, *profile.lenses[1:]]})
        night = {"phone": "x", "support": "tripod", "readings": [{"role": "subject", "ev100": -4}]}
        for own, bound in ((profile, 1.0), (shipped_profiles()["wherry-3"], 30.0)):
            brief = BriefFile.model_validate(night).to_brief(lambda _, own=own: own)
            shutters = [limit.high for limit in plan(brief).search.limits if limit.id == "hold"]
            self.assertEqual(bool(shutters), bound == 1.0)

    def test_too_few_or_all_sharp_shots_say_what_to_do(self):
        sharp = [HandShot(0.01, 0.5)] * 20
        with self.assertRaisesRegex(BadInput, "longer times"):
            hand_curve(sharp, sharp_px=3, floor_px=1.5)
        with self.assertRaisesRegex(BadInput, "is too few"):
            hand_curve(sharp[:5], sharp_px=3, floor_px=1.5)


class OtherMeasurements(unittest.TestCase):
    def test_headroom_of_a_straight_and_of_a_bent_curve(self):
        steps = [k / 3 for k in range(-6, 14)]
        # A file that ends where mid does 2.474 stops up, and RAW that holds 3.1.
        plain = [WallFrame(e, min(1.0, 0.18 * 2**e), is_raw=False) for e in steps]
        raw = [WallFrame(e, min(1.0, 2 ** (e - 3.1)), is_raw=True) for e in steps]
        found = {figure.name: figure for figure in headroom([*plain, *raw]).figures}
        self.assertAlmostEqual(found["headroom_stops.processed"].value, 2.474, delta=0.03)
        self.assertAlmostEqual(found["headroom_stops.raw"].value, 3.1, delta=0.03)

    def test_a_bracket_that_stops_short_says_which_way_to_go_on(self):
        dark = [WallFrame(k / 3, 0.18 * 2 ** (k / 3), is_raw=False) for k in range(-6, 3)]
        with self.assertRaisesRegex(BadInput, "does not reach white. Continue brighter"):
            headroom(dark)
        bright = [WallFrame(k / 3, min(1, 0.3 * 2 ** (k / 3)), is_raw=False) for k in range(8)]
        with self.assertRaisesRegex(BadInput, "does not reach mid grey. Continue darker"):
            headroom(bright)

    def test_bands_are_counted_with_few_of_them_too(self):
        place = (np.arange(600) + 0.5) / 600
        draw = np.random.default_rng(4)
        for count in (0.95, 1.4, 2.3, 6.8):
            rows = [
                (1 - 0.2 * (place - 0.4) ** 2)
                * (1 + 0.3 * np.sin(2 * np.pi * count * place + phase))
                + draw.normal(0, 0.003, 600)
                for phase in (0.3, 1.9, 3.7, 5.0)
            ]
            with self.subTest(count):
                self.assertLess(abs(bands_in(rows).count / count - 1), 0.05)
        # 6.8 flicker bands of 100 pulses a second: 68 ms.
        self.assertAlmostEqual(readout(rows, 100).figures[0].value, 0.068, delta=0.002)
        with self.assertRaisesRegex(BadInput, "No flicker bands"):
            bands_in([np.ones(200) + draw.normal(0, 0.001, 200)])

    def test_gaps_come_from_stamps_and_a_stall_ends_the_burst(self):
        at = [86_399.0 + 0.35 * k for k in range(8)] + [86_399.0 + 0.35 * 7 + 2.5]
        stamps = [Stamp(t % 86_400, 0.1, step_s=0.001) for t in at]
        found = {figure.name: figure for figure in pace(stamps).figures}
        self.assertAlmostEqual(found["files.frame_gap_s"].value, 0.25, delta=0.002)
        self.assertAlmostEqual(found["files.processed_fps"].value, 1 / 0.35, delta=0.02)
        self.assertEqual(found["files.processed_burst"].value, 8)

    def test_offset_and_dial_have_the_sign_people_expect(self):
        # It reads half a stop less than there was, so half a stop is to be added.
        offset = meter_offset([9.48, 9.52, 9.5], 10.0, 0.1).figures[0]
        self.assertAlmostEqual(offset.value, 0.5)
        self.assertAlmostEqual(offset.plus_minus, math.hypot(0.1, 0.0231, 0.03), delta=0.002)
        self.assertAlmostEqual(kelvin_dial([12.0, 8.0], [0.0, 0.0]).figures[0].value, 10.0)
        self.assertEqual(len(meter_offset([2.0], 10.0, 0.1).doubts), 1)

    def test_a_computed_mode_is_counted_by_the_dashes_of_a_moving_light(self):
        columns = np.full(900, 0.01)
        for k in range(8):  # eight dashes of 60, gaps of 40
            columns[50 + 100 * k : 110 + 100 * k] = 0.8
        trail = ComputedPicture(tuple(columns), 0.02)
        walls = [ComputedPicture((0.2,) * 900, 0.04), ComputedPicture((0.2,) * 900, 0.04 / 8**0.5)]
        # Seven periods and a dash: 7.6 periods of 0.5 s.
        found = computed_run([trail, *walls], "night", took_s=3.8)
        frames, gap, _ = found.figures
        self.assertEqual(frames.value, 8)
        self.assertAlmostEqual(gap.value, 0.2, delta=0.001)
        self.assertIn("noise falls as 3.0 stops", found.words)

    def test_a_frames_size_has_the_doubt_of_the_next_one(self):
        # 4, 5 and 6 MB: spread 1, two degrees of freedom (4.303 in tables), one more to come.
        found = file_weight([4.0, 6.0, 5.0], kind="processed").figures[0]
        self.assertEqual((found.name, found.value), ("files.processed_mb", 5.0))
        self.assertAlmostEqual(found.plus_minus, 4.303 * (4 / 3) ** 0.5, delta=0.55)


class OwnFilter(unittest.TestCase):
    """The phone's own filter mode is a way out, as its measured frames and gaps allow."""

    def ways(self, ev100, **changed):
        profile = shipped_profiles()["wherry-3"]
        computed = [mode.model_copy(update=changed) for mode in profile.computed]
        profile = profile.model_copy(update={"computed": computed})
        brief = BriefFile.model_validate(
            {
                "phone": "wherry-3",
                "support": "tripod",
                "readings": [{"role": "subject", "ev100": ev100}],
                "looks": [{"subject": "sluice", "look": "soft", "distance_m": 4}],
            }
        )
        made = plan(brief.to_brief(lambda _: profile), ask=True)
        return {trade.id: trade for trade in made.trades}

    def test_it_stands_for_dark_glass_and_says_what_to_set(self):
        way = self.ways(8)["own_filter"]
        slip = plan(way.brief).dialled
        self.assertEqual(slip["frames"].label, "Computed filter, 6.0 stops")
        self.assertIn("Set it to 1.6 s: the phone averages 64 frames", slip["frames"].reason)
        self.assertEqual(slip["format"].value, "processed")

    def test_it_is_not_offered_past_its_time_or_where_its_gaps_show_copies(self):
        self.assertNotIn("own_filter", self.ways(8, longest_s=1.0))
        self.assertNotIn("own_filter", self.ways(8, gap_s=2.0))
        self.assertNotIn("own_filter", self.ways(13))
