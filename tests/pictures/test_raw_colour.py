"""Luminance of coloured raw light: which matrix, which neutral, where black and white are."""

import numpy as np

from oxlen.core.light.meter import Spot
from oxlen.pictures.opening import open_picture
from tests.pictures.making import dng, mosaic
from tests.pictures.test_reading import InFolder

DAYLIGHT = np.array([[0.90, -0.20, -0.10], [-0.40, 1.20, 0.15], [-0.05, 0.20, 0.60]])
LAMPLIGHT = np.array([[1.20, -0.50, 0.05], [-0.20, 0.90, 0.30], [0.05, 0.05, 0.80]])
NEUTRAL = np.array([0.5, 1.0, 0.6])
A, D65 = 17, 21


def signed_rationals(matrix):
    """A matrix as a DNG holds it."""
    parts = [part for value in matrix.ravel() for part in (round(value * 10000), 10000)]
    return ("2i", matrix.size, tuple(parts))


def red():
    """A mosaic whose red sites hold three times a neutral's, the rest as a neutral's."""
    data = mosaic(level=500.0).astype(float)
    data[0::2, 0::2] = 64 + 3 * 250
    return np.rint(data).astype(np.uint16)


def by_hand(matrix):
    """Stops by which that red is above its neutral: Y of both by the inverse of a matrix."""
    y_row = np.linalg.inv(matrix)[1]
    colour = np.array([3 * 0.5, 1.0, 0.6])
    return float(np.log2((y_row @ colour) / (y_row @ NEUTRAL)))


class Matrices(InFolder):
    def above_neutral(self, **tags):
        spot = [Spot("a", 0.5, 0.5, r=0.2)]
        tones = [
            self.read(dng(data, **tags), spots=spot).spots[0].tone.stops_from_mid
            for data in (red(), mosaic(level=500.0))
        ]
        return tones[0] - tones[1]

    def test_of_two_matrices_the_one_for_daylight_is_used_wherever_it_stands(self):
        both = {"t50721": signed_rationals(DAYLIGHT), "t50722": signed_rationals(LAMPLIGHT)}
        for first, second, used in ((D65, A, DAYLIGHT), (A, D65, LAMPLIGHT)):
            tags = {**both, "t50778": ("H", 1, first), "t50779": ("H", 1, second)}
            with self.subTest(first=first):
                self.assertAlmostEqual(self.above_neutral(**tags), by_hand(used), delta=0.01)
        self.assertGreater(abs(by_hand(DAYLIGHT) - by_hand(LAMPLIGHT)), 0.1)

    def test_a_single_matrix_is_used_whatever_its_light(self):
        for illuminant in (A, D65):
            tags = {"t50721": signed_rationals(DAYLIGHT), "t50778": ("H", 1, illuminant)}
            self.assertAlmostEqual(self.above_neutral(**tags), by_hand(DAYLIGHT), delta=0.01)

    def test_a_matrix_without_an_inverse_leaves_green(self):
        flat = np.ones((3, 3))
        tags = {"t50721": signed_rationals(flat), "t50778": ("H", 1, D65)}
        self.assertAlmostEqual(self.above_neutral(**tags), 0.0, delta=0.01)

    def test_a_neutral_that_cannot_be_is_replaced_by_the_decoders(self):
        tags = {"t50721": signed_rationals(DAYLIGHT), "t50778": ("H", 1, D65)}
        spot = [Spot("a", 0.5, 0.5, r=0.2)]
        for neutral in ((0, 1, 1, 1, 1, 1), (5000, 10000, 10000, 10000)):
            bad = {**tags, "t50728": ("2I", len(neutral) // 2, neutral)}
            reading = self.read(dng(**bad), spots=spot)
            with self.subTest(neutral=neutral):
                self.assertTrue(np.isfinite(reading.spots[0].ev100))
                self.assertEqual(reading.confidence, "measured")


class Levels(InFolder):
    def test_black_and_white_are_the_files_own(self):
        # The same share of the way from black to white reads as the same light.
        found = []
        for black, white in ((64, 4095), (0, 1023), (512, 16383)):
            share = 0.125
            data = np.full((64, 96), black + share * (white - black))
            data[0::2, 0::2] = black + 0.5 * share * (white - black)
            data[1::2, 1::2] = black + 0.6 * share * (white - black)
            tags = {"t50714": ("H", 1, black), "t50717": ("H", 1, white)}
            found.append(self.read(dng(np.rint(data).astype(np.uint16), **tags)).frame.mean_stops)
        np.testing.assert_allclose(found, np.log2(0.125 / 0.18), atol=0.01)

    def test_a_site_counts_as_clipped_a_hair_under_white(self):
        for level, clipped in ((4090, True), (3980, False)):
            data = mosaic()
            data[:32] = level
            share = self.read(dng(data)).frame.clipped_share
            self.assertAlmostEqual(share, 0.5 if clipped else 0.0, places=2)


class Shown(InFolder):
    def test_mid_is_shown_at_its_srgb_code(self):
        tags = {"t50721": signed_rationals(DAYLIGHT), "t50778": ("H", 1, D65)}
        path = self.folder / "shown.dng"
        path.write_bytes(dng(mosaic(level=0.18 * 4031), **tags))
        with open_picture(path, "shown.dng") as picture:
            codes = np.asarray(picture.preview(96).convert("RGB"))
        self.assertAlmostEqual(float(codes[4:-4, 4:-4].mean()), 118, delta=2)
