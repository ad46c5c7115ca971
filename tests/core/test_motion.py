"""Laws of motion, flicker, less light, lens choice and cost."""

import unittest

import numpy as np

from oxlen.core.errors import OutOfRange
from oxlen.core.kit.cost import FrameCost, set_cost
from oxlen.core.lens import perspective
from oxlen.core.motion import flicker, less_light, subject
from oxlen.core.motion.subject import Mover


class Subject(unittest.TestCase):
    def test_shutter_for_blur_undoes_blur(self):
        walker = Mover(1.4, 6.0, 70.0)
        t = subject.shutter_for_blur_s(walker, 5.66, 12.0)
        self.assertAlmostEqual(subject.motion_blur_um(walker, 5.66, t), 12.0)

    def test_twice_as_far_or_half_as_fast_blurs_about_half(self):
        near = subject.motion_blur_um(Mover(2, 10), 5.66, 0.01)
        self.assertAlmostEqual(
            subject.motion_blur_um(Mover(2, 20), 5.66, 0.01) / near, 0.5, places=3
        )
        self.assertAlmostEqual(subject.motion_blur_um(Mover(1, 10), 5.66, 0.01) / near, 0.5)

    def test_arrays_broadcast(self):
        times = np.array([0.001, 0.01, 0.1])
        got = subject.motion_blur_um(Mover(2, 10), 5.66, times)
        np.testing.assert_allclose(got / got[0], [1, 10, 100])

    def test_straight_on_has_no_crossing_shutter_but_a_shift(self):
        with self.assertRaisesRegex(OutOfRange, "angle"):
            subject.shutter_for_blur_s(Mover(2, 10, 0.0), 5.66, 10)
        self.assertGreater(subject.approach_shift_mm(2.0, 5.0, 0.1, distance_m=10.0), 0)
        self.assertLess(subject.approach_shift_mm(2.0, -5.0, 0.1, distance_m=10.0), 0)
        with self.assertRaisesRegex(OutOfRange, "distance left"):
            subject.approach_shift_mm(2.0, 10.0, 2.0, distance_m=10.0)

    def test_a_dark_boat_vanishes_and_its_lamp_does_not(self):
        share = subject.covered_share(1.2, 4.0, 30.0)
        self.assertLess(subject.left_contrast(share, -3.0), 0.02)
        self.assertGreater(subject.left_contrast(share, 6.0), 0.02)

    def test_refusals(self):
        with self.assertRaisesRegex(OutOfRange, "speed"):
            Mover(-1.0, 5.0)
        with self.assertRaisesRegex(OutOfRange, "angle"):
            Mover(1.0, 5.0, 200.0)
        with self.assertRaisesRegex(OutOfRange, "beyond the focal length"):
            subject.motion_blur_um(Mover(1.0, 0.004), 5.66, 0.1)


class Flicker(unittest.TestCase):
    def test_even_shutters_hold_whole_pulses(self):
        steps = flicker.even_shutters_s(120.0, 0.2)
        np.testing.assert_allclose(steps * 120, np.arange(1, 25))
        np.testing.assert_allclose(flicker.residual_modulation(120.0, steps), 0, atol=1e-12)

    def test_modulation_falls_with_time(self):
        half_off = [flicker.residual_modulation(100.0, (n + 0.5) / 100) for n in (0, 1, 5, 50)]
        self.assertEqual(half_off, sorted(half_off, reverse=True))
        self.assertLess(half_off[-1], 0.01)

    def test_too_many_steps_are_refused(self):
        with self.assertRaisesRegex(OutOfRange, "limit"):
            flicker.even_shutters_s(1e6, 10.0)


class LessLight(unittest.TestCase):
    def test_factor_stops_and_density_agree(self):
        factors = np.array([2.0, 8.0, 1000.0])
        np.testing.assert_allclose(
            less_light.nd_stops(factors), less_light.nd_density(factors) / np.log10(2)
        )
        with self.assertRaisesRegex(OutOfRange, "factor"):
            less_light.nd_stops(0.5)

    def test_averaging_without_gaps_is_one_long_frame(self):
        found = less_light.averaged_frames(32, 0.25, 0.0, base_s=0.25)
        self.assertEqual((found.gathered_s, found.elapsed_s), (8.0, 8.0))
        self.assertAlmostEqual(found.virtual_stops, 5.0)
        gaps = less_light.averaged_frames(32, 0.25, 0.1, base_s=0.25)
        self.assertAlmostEqual(gaps.elapsed_s - gaps.gathered_s, 3.1)


class LensAndCost(unittest.TestCase):
    def test_a_far_background_grows_with_the_lens(self):
        self.assertAlmostEqual(perspective.background_growth(2.0, 1e7, 3.0), 3.0, places=4)
        self.assertAlmostEqual(perspective.background_growth(2.0, 0.0, 3.0), 1.0)

    def test_stretch_is_none_on_the_axis_and_grows_outwards(self):
        rows = [perspective.edge_stretch(2.1, r) for r in (0.0, 1.0, 2.0, 3.0)]
        self.assertAlmostEqual(rows[0].shape, 1.0)
        self.assertEqual([r.shape for r in rows], sorted(r.shape for r in rows))
        self.assertAlmostEqual(rows[3].radial, rows[3].tangential ** 2)

    def test_cost_counts_whole_frames(self):
        frame = FrameCost(12.0, 1.0)
        cost = set_cost(open_s=1.0, sub_s=0.1, gap_s=0.0, frame=frame, free_megabytes=119.0)
        self.assertEqual((cost.frames, cost.fits), (10, False))
        cost = set_cost(open_s=1.01, sub_s=0.1, gap_s=0.5, frame=frame, free_megabytes=200.0)
        self.assertEqual((cost.frames, cost.fits), (11, True))
        self.assertAlmostEqual(cost.time_s - cost.last_close_s, 0.5)
