"""Ladders, modes and noise: laws, and photon transfer on frames made by chance."""

import unittest
from unittest import mock

import numpy as np

from oxlen.core.errors import BadInput, NotFound, OutOfRange
from oxlen.core.hold.hand import burst_size_needed, hand_limit_s, keep_one_of, steadied_stops
from oxlen.core.hold.keeper import fit_keepers
from oxlen.core.kit.ladder import Ladder, snap, widest_gap_stops
from oxlen.core.kit.lens_filter import read_filter
from oxlen.core.sensor.noise import Sensor, darkest_usable_stops, mid_signal_e, snr, snr_at_output
from oxlen.core.sensor.photon_transfer import photon_transfer
from oxlen.formats.phone.shipped import shipped_profiles

SENSOR = Sensor(12000, 100, 3.0, prnu_share=0.006)


class FilterRead(unittest.TestCase):
    def test_filters_are_understood_as_people_say_them(self):
        # A density D transmits 10^-D (ISO 5-1); a stop is half the light.
        for words, factor, name in (
            ("ND 64", 64.0, "ND 64"),
            ("nd-8", 8.0, "ND 8"),
            ("×64", 64.0, "ND 64"),
            ("1000x", 1000.0, "ND 1000"),
            ("10 stops", 1024.0, "ND 1024"),
            ("1 stop", 2.0, "ND 2"),
            ("ND 1.8", 10**1.8, "ND 63"),
            ("0,9", 10**0.9, "ND 7.9"),
            ("3.0", 1000.0, "ND 1000"),
        ):
            with self.subTest(words):
                found = read_filter(words)
                self.assertAlmostEqual(found.factor, factor)
                self.assertEqual(found.name, name)

    def test_what_is_no_filter_is_named_with_how_to_say_one(self):
        for words in ("", "dark", "ND", "ND 0", "x0.5", "30 stops", "ND 64 ND 8", "-6 stops"):
            with self.subTest(words), self.assertRaisesRegex(BadInput, "ND 64, ×64, 6 stops"):
                read_filter(words)


class Ladders(unittest.TestCase):
    def test_snap_takes_the_nearest_in_stops_and_the_end_beyond(self):
        self.assertEqual(snap(0.7, [0.5, 1.0]).value, 0.5)
        self.assertEqual(snap(0.72, [0.5, 1.0]).value, 1.0)
        self.assertAlmostEqual(snap(8, [0.5, 1.0]).residual_stops, -3)

    def test_steps_and_gaps(self):
        self.assertEqual(widest_gap_stops([4]), 1.0)
        self.assertAlmostEqual(Ladder((100, 200), (0.01, 0.02, 0.08)).half_step_stops, 1.0)

    def test_refusals(self):
        with self.assertRaisesRegex(BadInput, "at least one step"):
            snap(1, [])
        with self.assertRaises(OutOfRange):
            snap(-1, [1, 2])

    def test_shipped_phones_agree_with_their_own_optics(self):
        for profile in shipped_profiles().values():
            for lens in profile.lenses:
                mode = lens.modes[0]
                diagonal = np.hypot(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000
                equivalent = lens.focal_mm * np.hypot(36, 24) / diagonal
                with self.subTest(profile.id, lens=lens.id):
                    self.assertAlmostEqual(equivalent / lens.focal35_mm, 1, delta=0.02)

    def test_lens_and_mode_by_name(self):
        phone = shipped_profiles()["wherry-3"].to_phone()
        self.assertEqual(phone.lens(None).id, "main")
        self.assertEqual(phone.lens("main").mode("50mp").width_px, 8160)
        with self.assertRaisesRegex(NotFound, "It has 12mp, 50mp"):
            phone.lens("main").mode("100mp")

    def test_read_noise_between_measured_isos(self):
        mode = shipped_profiles()["wherry-3"].to_phone().lens("main").mode(None)
        np.testing.assert_allclose(mode.read_noise_at(np.array([50, 100, 9999])), [3.4, 2.9, 1.5])
        between = float(mode.read_noise_at(70.71))
        self.assertAlmostEqual(between, (3.4 + 2.9) / 2, places=3)


class Noise(unittest.TestCase):
    def test_double_iso_halves_the_signal(self):
        self.assertAlmostEqual(mid_signal_e(SENSOR, 200) * 2, mid_signal_e(SENSOR, 100))

    def test_frames_beat_shot_noise_but_not_fixed_pattern(self):
        self.assertAlmostEqual(snr(1000, 2, 0, frames=16) / snr(1000, 2, 0), 4)
        self.assertLess(snr(1e6, 2, 0.01, frames=1e6), 100.001)

    def test_smaller_output_looks_cleaner_and_larger_no_worse(self):
        self.assertAlmostEqual(snr_at_output(10, 12e6, 3e6), 20)
        self.assertAlmostEqual(snr_at_output(10, 3e6, 12e6), 10)

    def test_darkest_usable_tone_has_snr_ten(self):
        tones = darkest_usable_stops(SENSOR, iso=np.array([100, 800]), read_noise_e=2.0)
        for iso, tone in zip((100, 800), tones, strict=True):
            signal = mid_signal_e(SENSOR, iso) * 2.0**tone
            self.assertAlmostEqual(float(snr(signal, 2.0, SENSOR.prnu_share)), 10)

    def test_photon_transfer_finds_gain_and_read_noise(self):
        generator = np.random.default_rng(12)
        gain, read, black = 0.8, 3.0, 64
        pairs = []
        for level in (50, 400, 1500, 4000):
            frames = [
                gain * (generator.poisson(level, 200_000) + generator.normal(0, read, 200_000))
                + black
                for _ in range(2)
            ]
            pairs.append([np.mean(frames), np.var(frames[0] - frames[1])])
        fit = photon_transfer(pairs, black)
        self.assertAlmostEqual(fit.gain_dn_per_e / gain, 1, delta=0.02)
        self.assertIsNone(photon_transfer([[100, 1], [200, 400]], 64).read_noise_e)


class Hands(unittest.TestCase):
    def test_supports(self):
        self.assertAlmostEqual(hand_limit_s(24, steadied_stops(3, "braced")), 2**4.5 / 24)
        self.assertAlmostEqual(hand_limit_s(24, steadied_stops(3, "handheld")), 1 / 3)

    def test_burst_size_is_the_smallest(self):
        for q in (0.03, 0.2, 0.5, 0.77):
            for p in (0.5, 0.9, 0.99):
                n = burst_size_needed(q, p)
                self.assertGreaterEqual(keep_one_of(q, n), p)
                self.assertTrue(n == 1 or keep_one_of(q, n - 1) < p)

    def test_keepers_recover_a_known_hand(self):
        generator = np.random.default_rng(4)
        times = 2.0 ** generator.uniform(-9, 1, 4000)
        x = np.log2(times * 24)
        kept = (generator.random(4000) < 1 / (1 + np.exp(-(2.0 - 1.1 * x)))).astype(int)
        fit = fit_keepers(times, [24.0] * 4000, kept.tolist())
        self.assertAlmostEqual(fit.b_per_stop, -1.1, delta=0.08)
        self.assertAlmostEqual(fit.x90, (np.log(9) - 2.0) / -1.1, delta=0.25)

    def test_a_step_too_long_is_halved_until_it_helps(self):
        times, kept = [0.01, 0.02, 0.04, 0.08, 0.16, 0.32], [1, 1, 0, 1, 0, 0]
        fit = fit_keepers(times, [24.0] * 6, kept)
        solve = np.linalg.solve
        with mock.patch.object(np.linalg, "solve", lambda a, b: 5 * solve(a, b)):
            overshooting = fit_keepers(times, [24.0] * 6, kept)
        self.assertAlmostEqual(overshooting.b_per_stop, fit.b_per_stop, places=3)

    def test_takes_must_match(self):
        with self.assertRaisesRegex(BadInput, "Every take"):
            fit_keepers([0.1], [24, 24], [1])
        with self.assertRaisesRegex(BadInput, "1 for a keeper"):
            fit_keepers([0.1, 0.2], [24, 24], [1, 2])
