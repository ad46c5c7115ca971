"""Frames aligned: by the stars, and by what they show."""

import unittest

import cv2
import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import combined
from oxlen.core.frames.feature_alignment import aligned_by_features, base_of
from oxlen.core.frames.gain import noise_gain_stops, set_gain
from oxlen.core.frames.star_alignment import SkyLens, matched_stars, sky_lens, sky_turn
from oxlen.core.frames.star_points import star_points
from oxlen.formats.scene_file import shipped_scene

SIZE = (1000, 750)
AXIS = np.array([0.33, -0.76, 0.56])
SIDEREAL_RAD_S = np.radians(15.041 / 3600)


def stars(lens, count=1200, seed=3):
    """Directions and fluxes (photons) of stars over a frame and a little beyond."""
    draw = np.random.default_rng(seed)
    places = np.column_stack([draw.uniform(-150, side + 150, count) for side in SIZE])
    return lens.directions(places), 4000 * 10 ** (-0.4 * draw.uniform(0, 4.5, count))


def turned(directions, seconds):
    """Directions as the sky has turned them after some seconds."""
    return directions @ cv2.Rodrigues(AXIS * SIDEREAL_RAD_S * seconds)[0].T


def photographed(places, fluxes, seed):
    """Photons of stars (sigma 1 px) over an even sky, with their noise."""
    frame = np.full(SIZE[::-1], 40.0)
    for (x, y), flux in zip(places, fluxes, strict=True):
        if 7 < x < SIZE[0] - 8 and 7 < y < SIZE[1] - 8:
            left, top = int(x) - 5, int(y) - 5
            rows, columns = np.mgrid[top : top + 12, left : left + 12]
            spot = np.exp(-((columns - x) ** 2 + (rows - y) ** 2) / 2)
            frame[top : top + 12, left : left + 12] += flux * spot / spot.sum()
    draw = np.random.default_rng(seed)
    return (draw.poisson(frame) + draw.normal(0, 3, frame.shape)).astype(np.float32)


class ByTheStars(unittest.TestCase):
    def test_the_sky_is_laid_to_a_tenth_of_a_pixel_through_a_lens_that_bends(self):
        corners = [(20, 20), (980, 20), (20, 730), (980, 730)]
        for bend, seconds in ((0.0, 60), (-0.05, 900), (0.04, 900)):
            lens = SkyLens(1300.0, bend, SIZE)
            directions, fluxes = stars(lens)
            base = star_points(photographed(lens.places(directions), fluxes, 1))
            later = star_points(photographed(lens.places(turned(directions, seconds)), fluxes, 2))
            guess = SkyLens(1360.0, 0.0, SIZE)
            expected = guess.places(turned(guess.directions(base), seconds - 30))
            found = matched_stars(base, later, expected)
            fitted = sky_lens([found], SIZE, guess.focal_px)
            turn, _ = sky_turn(fitted, found)
            for places, most in (([(500, 375), (540, 350)], 0.1), (corners, 0.3)):
                reported = np.array(places, dtype=float)
                true = lens.places(turned(lens.directions(reported), seconds))
                off = np.hypot(*(turn.places(reported) - true).T)
                with self.subTest(bend=bend, seconds=seconds, most=most):
                    self.assertLess(off.max(), most)

    def test_a_shift_and_turn_alone_would_leave_pixels_in_the_corners(self):
        lens = SkyLens(700.0, 0.0, SIZE)
        places = np.array([(x, y) for x in (20, 500, 980) for y in (20, 375, 730)], dtype=float)
        later = lens.places(turned(lens.directions(places), 1800))
        plain, _ = cv2.estimateAffinePartial2D(places, later)
        left = np.hypot(*(places @ plain[:, :2].T + plain[:, 2] - later).T)
        self.assertGreater(left.max(), 5.0)

    def test_without_stars_in_common_nothing_is_told(self):
        lens = SkyLens(1300.0, 0.0, SIZE)
        frame, other = (
            star_points(photographed(lens.places(stars(lens, 60, seed)[0]), np.full(60, 3000), 1))
            for seed in (3, 4)
        )
        self.assertIsNone(matched_stars(frame[:5], other, frame[:5]))
        found = matched_stars(frame, other, frame)
        self.assertTrue(found is None or len(found.reference) < 14)


class ByFeatures(unittest.TestCase):
    def test_frames_shifted_and_turned_are_laid_to_a_third_of_a_pixel(self):
        light = shipped_scene("tarred-shed").radiance @ np.array([0.21, 0.72, 0.07], np.float32)
        light = np.clip(light / np.quantile(light, 0.99), 0, 1).astype(np.float32)
        height, width = light.shape
        draw = np.random.default_rng(1)
        for shift, degrees in (((20, -20), 3.0), ((-13.5, 7.2), -2.2)):
            matrix = cv2.getRotationMatrix2D(((width - 1) / 2, (height - 1) / 2), degrees, 1)
            matrix[:, 2] += shift
            moved = cv2.warpAffine(
                light, matrix, (width, height), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REFLECT
            )
            noisy = [
                (frame + draw.normal(0, 0.004, frame.shape)).astype(np.float32)
                for frame in (light, moved)
            ]
            found = aligned_by_features(base_of(noisy[0]), noisy[1])
            reported = np.array(
                [(x, y) for x in (20, width - 20) for y in (20, height - 20)], float
            )
            off = np.hypot(
                *(found.places(reported) - (reported @ matrix[:, :2].T + matrix[:, 2])).T
            )
            with self.subTest(degrees=degrees):
                self.assertLess(off.max(), 0.3)

    def test_of_a_plain_wall_nothing_is_told(self):
        plain = np.full((300, 400), 0.2, dtype=np.float32)
        self.assertIsNone(aligned_by_features(base_of(plain), plain))


class WhatASetGives(unittest.TestCase):
    def test_the_median_gains_less_than_the_mean(self):
        draw = np.random.default_rng(8)
        frames = draw.normal(0, 1, (25, 40000))
        for how in ("mean", "median", "sigma-clip"):
            spread = float(np.std(combined(frames, how)))
            with self.subTest(how):
                self.assertAlmostEqual(-np.log2(spread), noise_gain_stops(how, 25), delta=0.06)
        self.assertEqual(noise_gain_stops("lighten", 25), 0.0)

    def test_a_sum_is_brighter_and_an_average_stands_for_glass(self):
        self.assertEqual(set_gain("add", [2.0] * 8).virtual_nd_stops, 0.0)
        found = set_gain("mean", [2.0] * 8, elapsed_s=30.0)
        self.assertEqual((found.light_s, found.time_s, found.virtual_nd_stops), (16.0, 30.0, 3.0))
        self.assertEqual(set_gain("lighten", [2.0, 5.0]).light_s, 5.0)

    def test_a_rule_that_is_not_known_names_those_that_are(self):
        with self.assertRaisesRegex(BadInput, "sigma-clip"):
            combined(np.ones((2, 3)), "blend")
        with self.assertRaises(BadInput):
            combined(np.ones((0, 3)), "mean")
