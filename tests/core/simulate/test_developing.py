"""From light to a finished picture: development, another exposure of it, a part of the frame."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.light.linear_picture import light_of_codes
from oxlen.core.simulate.capture import capture, seen_through
from oxlen.core.simulate.develop import demosaiced, processed, toned
from oxlen.core.simulate.exposing import (
    Camera,
    binned_mode,
    falloff,
)
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.relight import re_exposed, source_of
from oxlen.core.simulate.scene import reduced
from oxlen.core.simulate.shown import marked, shown_tones
from tests.core.simulate.test_simulate import LENS, MODE, PROFILE, at_ev8, flat


class Development(unittest.TestCase):
    def test_mid_is_code_118_and_white_is_reached(self):
        frame = capture(flat(), LENS, MODE, settings=at_ev8(50.0), random=SeededRandom(6))
        self.assertAlmostEqual(float(frame.developed().mean()), 118, delta=1.5)
        self.assertAlmostEqual(float(frame.neutral().mean()), 118, delta=1.5)
        bright = np.full((40, 40, 3), 0.18 * 2**2.5, np.float32)
        self.assertAlmostEqual(float(toned(bright, 2.5).max()), 1.0, delta=0.02)
        self.assertEqual(processed(bright * 4, clean=0, headroom=2.5).min(), 255)

    def test_lift_goes_by_the_neighbourhood_and_keeps_detail(self):
        tone = np.float32(0.18 * 2**-3.2)
        dim = np.full((480, 640, 3), tone, np.float32)
        dim[::2] *= np.float32(1.5)
        lifted = toned(dim, 2.5) / dim
        self.assertAlmostEqual(float(np.log2(lifted.mean())), 0.25, delta=0.02)
        self.assertLess(float(lifted.max() / lifted.min()), 1.01)
        bright = np.full((480, 640, 3), 0.18, np.float32)
        bright[238:242, 318:322] = tone
        self.assertAlmostEqual(float(toned(bright, 2.5)[240, 320, 1] / tone), 1.0, delta=0.05)

    def test_noise_reduction_quiets_noise_and_keeps_edges(self):
        noise = np.random.default_rng(7).normal(0, 0.006, (200, 200, 3)).astype(np.float32)
        linear = np.full((200, 200, 3), 0.03, np.float32)
        linear[:, 100:] = 0.3
        plain, clean = (
            processed(linear + noise, clean=amount, headroom=2.5).astype(float)
            for amount in (0.0, 0.9)
        )
        self.assertLess(clean[:, :90].std(), 0.6 * plain[:, :90].std())
        step = clean[:, 103:110].mean() - clean[:, 90:97].mean()
        self.assertGreater(step, 0.9 * (plain[:, 103:110].mean() - plain[:, 90:97].mean()))

    def test_the_raw_frame_is_flat_though_the_lens_falls_off(self):
        frame = capture(
            flat(size=(720, 960)), LENS, MODE, settings=at_ev8(), random=SeededRandom(8)
        )
        corner = frame.raw.mosaic[:60:2, 1:60:2].mean() - 256
        middle = frame.raw.mosaic[330:390:2, 451:511:2].mean() - 256
        self.assertAlmostEqual(np.log2(corner / middle), 0, delta=0.02)
        self.assertLess(falloff(flat(size=(720, 960)))[0, 0], 0.65)


class Relighting(unittest.TestCase):
    def test_a_stop_more_is_a_stop_brighter_and_losses_are_marked(self):
        codes = np.full((120, 160, 3), 118, np.uint8)
        codes[:20] = 255
        camera = Camera(LENS, binned_mode(MODE, 160, 120))
        source = source_of(light_of_codes(codes), 8.0, camera, iso=50.0)
        once = at_ev8(50.0)
        twice = replace(once, shutter_s=once.shutter_s * 2)
        frames = [re_exposed(source, camera, at, random=SeededRandom(1)) for at in (once, twice)]
        dark, bright = (demosaiced(frame)[60:, :, 1].mean() for frame in frames)
        self.assertAlmostEqual(np.log2(bright / dark), 1, delta=0.02)
        self.assertAlmostEqual(source.lost.mean(), 20 / 120)
        self.assertFalse(source.noisy.any())

    def test_shores_and_tones(self):
        codes = np.full((120, 160, 3), 118, np.uint8)
        codes[40:80, 40:80] = 255
        tones = shown_tones(codes)
        self.assertAlmostEqual(tones.clipped_share, 1600 / 19200)
        self.assertAlmostEqual(sum(tones.shares), 1, places=6)
        drawn = marked(codes)
        self.assertTrue((drawn[38:42, 60] != codes[38:42, 60]).any())
        np.testing.assert_array_equal(drawn[0, 0], codes[0, 0])


class Framing(unittest.TestCase):
    def test_a_longer_lens_sees_the_middle_and_a_wider_one_is_refused(self):
        phone = PROFILE.to_phone()
        long = phone.lens("long")
        part = seen_through(flat(size=(720, 960)), long, long.modes[0])
        self.assertLess(part.width_px, 400)
        wide = phone.lens("ultra-wide")
        with self.assertRaisesRegex(BadInput, "Use a longer lens"):
            seen_through(flat(), wide, wide.modes[0])

    def test_a_quick_look_has_the_same_light(self):
        scene = flat(size=(720, 960))
        small = reduced(scene, 3)
        self.assertEqual(small.radiance.shape, (240, 320, 3))
        self.assertAlmostEqual(float(small.radiance.mean() / scene.radiance.mean()), 1, places=5)
        with self.assertRaisesRegex(BadInput, "distance"):
            replace(scene, distance_m=np.ones((2, 2), np.float32))
