"""Speed and ripples of water measured from two frames."""

import unittest

import cv2
import numpy as np

from oxlen.core.motion.measured_flow import flow_between, metres_a_pixel, ripple_length_px


def water(length_px, seed=1, size=(300, 400)):
    """Ripples of about one length, running every way, as linear light."""
    draw = np.random.default_rng(seed)
    rows, columns = np.mgrid[0 : size[0], 0 : size[1]]
    heights = np.zeros(size)
    for _ in range(30):
        turn, phase = draw.uniform(0, np.pi), draw.uniform(0, 2 * np.pi)
        long = length_px * draw.uniform(0.85, 1.15)
        heights += np.sin(2 * np.pi * (columns * np.cos(turn) + rows * np.sin(turn)) / long + phase)
    return (0.2 * np.exp(0.12 * heights)).astype(np.float32)


class MeasuredFlow(unittest.TestCase):
    def test_a_flow_is_told_in_length_and_direction(self):
        first = water(22)
        draw = np.random.default_rng(3)
        for right, down in ((6.0, 2.5), (-9.0, 4.0), (0.0, 5.0)):
            matrix = np.array([[1.0, 0, right], [0, 1.0, down]])
            second = cv2.warpAffine(first, matrix, first.shape[::-1], borderMode=cv2.BORDER_REFLECT)
            noisy = [
                (frame * draw.normal(1, 0.02, frame.shape)).astype(np.float32)
                for frame in (first, second)
            ]
            found = flow_between(*noisy)
            with self.subTest(right=right, down=down):
                self.assertAlmostEqual(found.px, np.hypot(right, down), delta=0.5)
                turned = (found.angle_deg - np.degrees(np.arctan2(down, right)) + 180) % 360 - 180
                self.assertAlmostEqual(turned, 0.0, delta=6)
                self.assertLess(found.plus_minus_px, 1.5)

    def test_ripples_are_measured_within_a_sixth(self):
        for length in (14.0, 24.0, 40.0):
            with self.subTest(length=length):
                self.assertAlmostEqual(ripple_length_px(water(length)) / length, 1.0, delta=0.16)

    def test_of_plain_water_nothing_is_told(self):
        draw = np.random.default_rng(5)
        plain = np.full((200, 200), 0.2, dtype=np.float32)
        self.assertIsNone(flow_between(plain, plain))
        noise = (plain * draw.normal(1, 0.02, plain.shape)).astype(np.float32)
        self.assertIsNone(ripple_length_px(noise))

    def test_a_pixel_covers_more_further_away(self):
        self.assertAlmostEqual(
            metres_a_pixel(10.0, 6.81, 1.22) / metres_a_pixel(5.0, 6.81, 1.22), 2.0
        )
