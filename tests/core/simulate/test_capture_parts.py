"""The parts of the capture model, each against its formula."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.light.exposure import believable_brightness_ev100
from oxlen.core.light.linear_picture import light_of_codes
from oxlen.core.light.patterns import frame_light, patterns
from oxlen.core.sensor.raw_level import luminance_weights
from oxlen.core.simulate.capture import capture, seen_through
from oxlen.core.simulate.develop import demosaiced, processed, thumbnail, toned
from oxlen.core.simulate.exposing import (
    Camera,
    CaptureSettings,
    binned_mode,
    falloff,
    light_on_sensor,
    shake_blur_px,
)
from oxlen.core.simulate.randomness import POOL_SIZE, PooledNoise, SeededRandom
from oxlen.core.simulate.readout import (
    CHANNEL_GAIN,
    RawFrame,
    fixed_pattern,
    mid_share_at,
    read_out,
)
from oxlen.core.simulate.relight import source_of
from oxlen.core.simulate.scene import Layer, SceneLamp, Star
from oxlen.core.simulate.shown import HISTOGRAM_HIGH, HISTOGRAM_LOW, shown_tones
from oxlen.core.simulate.stars import star_light
from oxlen.core.simulate.water import drifted_px
from tests.core.simulate.test_night_and_layers import middle_of, night
from tests.core.simulate.test_simulate import LENS, MODE, PROFILE, at_ev8, flat

CAMERA = Camera(LENS, binned_mode(MODE, 320, 240))


class Lens(unittest.TestCase):
    def test_light_falls_off_with_the_square_of_the_cosine_alike_on_all_sides(self):
        scene = flat()
        found = falloff(scene)
        for turned in (found[::-1], found[:, ::-1]):
            np.testing.assert_allclose(found, turned, rtol=1e-6)
        x, y = np.array([0.5, 159.5, 0.5]), np.array([0.5, 0.5, 119.5])
        tangents = np.hypot(x, y) / scene.pixels_per_radian
        at = found[(120 + y - 0.5).astype(int), (160 + x - 0.5).astype(int)]
        np.testing.assert_allclose(at, np.cos(np.arctan(tangents)) ** 2, rtol=1e-4)

    def test_a_longer_lens_sees_the_very_middle_with_all_that_stands_in_it(self):
        x, y = np.meshgrid(np.linspace(-1, 1, 320), np.linspace(-1, 1, 240))
        light = np.repeat(np.exp(-3 * (x**2 + y**2))[..., None], 3, axis=2).astype(np.float32)
        dot = Layer(
            "dot",
            np.ones((10, 10, 3), np.float32),
            np.ones((10, 10), np.float32),
            left=155,
            top=115,
        )
        scene = replace(flat(), radiance=light, layers=(dot,))
        long = PROFILE.to_phone().lens("long")
        part = seen_through(scene, long, long.mode(None))
        self.assertLess(part.width_px, 200)
        for turned in (part.radiance[::-1], part.radiance[:, ::-1]):
            np.testing.assert_allclose(part.radiance, turned, rtol=1e-5)
        kept = part.layers[0]
        self.assertEqual(kept.left + 5, part.width_px / 2)
        self.assertEqual(kept.top + 5, part.height_px / 2)
        # The same angle takes the same number of pixels.
        self.assertAlmostEqual(part.pixels_per_radian / scene.pixels_per_radian, 1, delta=0.01)


class Hand(unittest.TestCase):
    def test_a_rest_is_worth_its_stops_and_a_tripod_stands(self):
        held, braced = (
            shake_blur_px(CAMERA, CaptureSettings(100, 0.5, support=support))
            for support in ("handheld", "braced")
        )
        self.assertAlmostEqual(np.log2(held / braced), 1.5)
        circle_px = np.hypot(320, 240) / 1500
        self.assertAlmostEqual(held, circle_px * 0.5 * LENS.focal35_mm / 2**LENS.stabiliser_stops)
        grain = np.random.default_rng(3).random((240, 320, 3), dtype=np.float32)
        scene = replace(flat(), radiance=grain)
        still = light_on_sensor(
            scene, CAMERA, CaptureSettings(100, 2.0, 5.0, support="tripod"), random=SeededRandom(1)
        )
        shaken = light_on_sensor(
            scene,
            CAMERA,
            CaptureSettings(100, 2.0, 5.0, support="handheld"),
            random=SeededRandom(1),
        )
        np.testing.assert_allclose(still / still.mean(), grain / grain.mean(), rtol=1e-4)
        self.assertLess(shaken[20:-20, 20:-20].std(), 0.8 * still[20:-20, 20:-20].std())


class Lamps(unittest.TestCase):
    def test_rows_swing_by_the_depth_that_the_shutter_leaves(self):
        for shutter_s in (1 / 4000, 1 / 700):
            lamp = SceneLamp("panel", 4000, pulse_hz=300.0, depth=0.5)
            scene = flat(size=(720, 64), lamps=(lamp,))
            light = light_on_sensor(
                scene,
                CAMERA,
                CaptureSettings(100, shutter_s, 5.0, support="tripod"),
                random=SeededRandom(2),
            )
            rows = light[:, 32, 1] / light[:, 32, 1].mean()
            left = 0.5 * np.sin(np.pi * 300 * shutter_s) / (np.pi * 300 * shutter_s)
            with self.subTest(shutter_s=shutter_s):
                self.assertAlmostEqual(np.ptp(rows) / 2, left, delta=0.04 * left)


class Readout(unittest.TestCase):
    def test_the_pattern_is_the_sensors_own_and_as_strong_as_the_profile_says(self):
        uneven = replace(MODE, sensor=replace(MODE.sensor, prnu_share=0.02))
        light, even = np.full((200, 200, 3), 1.0, np.float32), np.ones((200, 200), np.float32)
        frames = [
            read_out(light, uneven, 50.0, falloff=even, random=SeededRandom(seed)).mosaic.astype(
                float
            )
            for seed in range(24)
        ]
        green = np.mean(frames, axis=0)[0::2, 1::2]
        level = green - 256
        # What is left of shot noise over 24 frames is small beside 2 %.
        self.assertAlmostEqual(level.std() / level.mean(), 0.02, delta=0.0015)
        pattern = fixed_pattern((200, 200), 0.02)[0::2, 1::2]
        self.assertGreater(np.corrcoef(level.ravel(), pattern.ravel())[0, 1], 0.97)

    def test_below_base_iso_the_well_clips_as_many_stops_sooner(self):
        base = MODE.sensor.base_iso
        stops = [-np.log2(mid_share_at(MODE, iso)) for iso in (base / 2, base, 8 * base)]
        np.testing.assert_allclose(np.diff(stops), [1.0, 0.0], atol=1e-9)
        light = np.full((80, 80, 3), 2.0**2.9, np.float32)
        even = np.ones((80, 80), np.float32)
        for iso, clips in ((base, False), (base / 2, True)):
            raw = read_out(light, MODE, iso, falloff=even, random=SeededRandom(1))
            share = (raw.mosaic[0::2, 1::2] >= 0.99 * raw.white_dn).mean()
            self.assertEqual(share > 0.95, clips, share)

    def test_pooled_noise_is_noise_and_begins_elsewhere_by_seed(self):
        noise, same, other = (PooledNoise(seed).normals((400, 500)) for seed in (1, 1, 2))
        np.testing.assert_array_equal(noise, same)
        self.assertLess(abs(np.corrcoef(noise.ravel(), other.ravel())[0, 1]), 0.02)
        self.assertAlmostEqual(float(noise.std()), 1, delta=0.01)
        self.assertAlmostEqual(float(noise.mean()), 0, delta=0.01)
        # More than the pool holds is drawn afresh: never the same number twice over.
        large = PooledNoise(1).normals((POOL_SIZE + 4096,))
        self.assertFalse(np.array_equal(large[:4096], large[POOL_SIZE:]))


class Development(unittest.TestCase):
    def frame(self, level, black=256, white=4095):
        """A mosaic of one colour: `level` times mid in every channel."""
        mosaic = np.empty((80, 80), np.uint16)
        for (row, column), channel in zip(
            ((0, 0), (0, 1), (1, 0), (1, 1)), (0, 1, 1, 2), strict=True
        ):
            share = 0.1 * level * CHANNEL_GAIN[channel]
            mosaic[row::2, column::2] = round(black + (white - black) * share)
        return RawFrame(mosaic, black, white, mid_share=0.1)

    def test_black_is_taken_off_and_the_sensors_colour_undone(self):
        for black in (0, 64, 1000):
            for level in (0.25, 1.0, 4.0):
                frame = self.frame(level, black)
                with self.subTest(black=black, level=level):
                    for found in (demosaiced(frame)[10:70, 10:70], thumbnail(frame)):
                        np.testing.assert_allclose(found, level, rtol=0.02)

    def test_the_shoulder_rises_throughout_and_leaves_dark_tones_alone(self):
        ramp = np.repeat(
            np.linspace(0.35, 0.18 * 2**3, 600, dtype=np.float32)[None, :], 600, axis=0
        )
        bent = toned(np.repeat(ramp[..., None], 3, axis=2), 3.0)[300, :, 1]
        self.assertTrue((np.diff(bent) > 0).all())
        under = ramp[0] < 0.59
        np.testing.assert_allclose(bent[under], ramp[0][under], rtol=0.01)
        self.assertAlmostEqual(float(bent[-1]), 1.0, delta=0.01)
        # Never steeper than what it bends.
        self.assertLessEqual(float((np.diff(bent) / np.diff(ramp[0])).max()), 1.02)

    def test_cleaning_keeps_the_level_and_the_colour(self):
        draw = np.random.default_rng(5)
        for colour in ((0.02, 0.02, 0.02), (0.30, 0.12, 0.05)):
            even = np.full((240, 240, 3), colour, np.float32)
            noisy = (even * (1 + 0.2 * draw.standard_normal(even.shape))).astype(np.float32)
            clean = processed(noisy, clean=0.8, headroom=2.5).astype(float)
            plain = processed(even, clean=0.0, headroom=2.5).astype(float)
            with self.subTest(colour=colour):
                np.testing.assert_allclose(
                    clean.mean(axis=(0, 1)), plain.mean(axis=(0, 1)), atol=2.0
                )

    def test_a_frame_twice_as_bright_by_iso_is_no_brighter_developed(self):
        means = [
            capture(flat(), LENS, MODE, settings=at_ev8(iso), random=SeededRandom(2))
            .developed()
            .mean()
            for iso in (50.0, 400.0, 1600.0)
        ]
        self.assertLess(np.ptp(means), 2.0)


class Sky(unittest.TestCase):
    def test_a_star_off_the_axis_stands_where_a_pinhole_puts_it(self):
        for degrees in (5.0, 20.0, 25.0):
            scene = night(Star(0.0, degrees, 0.0))
            x, y = middle_of(star_light(scene, 1e-3))
            with self.subTest(degrees=degrees):
                up = scene.pixels_per_radian * np.tan(np.radians(degrees))
                self.assertAlmostEqual(-y, up, delta=0.3)
                self.assertAlmostEqual(x, 0, delta=0.3)
        east = night(Star(30.0, 0.0, 0.0))
        x, _ = middle_of(star_light(east, 1e-3))
        self.assertAlmostEqual(x, -east.pixels_per_radian * np.tan(np.radians(30)), delta=0.3)


class Streams(unittest.TestCase):
    def test_a_stream_goes_along_its_way(self):
        mask, away = np.ones((160, 200), np.uint8), np.full((160, 200), 4.0, np.float32)
        for angle in (0.0, 30.0, 90.0, 150.0):
            right, down = drifted_px(
                mask, away, 660.0, speed_m_s=1.0, angle_deg=angle, random=SeededRandom(3)
            )
            place = np.unravel_index(np.argmax(np.hypot(right, down)), right.shape)
            ahead = np.array([right[place], down[place]])
            way = np.array([np.cos(np.radians(angle)), np.sin(np.radians(angle))])
            with self.subTest(angle=angle):
                self.assertGreater(np.hypot(*ahead), 5)
                self.assertAlmostEqual(abs(ahead @ way) / np.hypot(*ahead), 1, places=5)


class Measured(unittest.TestCase):
    def test_only_light_under_its_noise_is_marked_noisy(self):
        codes = np.full((40, 40, 3), 118, np.uint8)
        codes[:20] = 6
        for iso, noisy in ((50.0, 0.0), (6400.0, 0.5)):
            self.assertEqual(
                source_of(light_of_codes(codes), 8.0, CAMERA, iso=iso).noisy.mean(), noisy
            )
        self.assertFalse(source_of(light_of_codes(codes), 8.0).noisy.any())

    def test_the_histogram_puts_mid_at_mid_and_keeps_what_lies_outside(self):
        codes = np.full((40, 40, 3), 118, np.uint8)
        codes[:, :10], codes[:, 30:] = 0, 255
        tones = shown_tones(codes)
        edges, shares = np.array(tones.edges_stops), np.array(tones.shares)
        self.assertEqual((edges[0], edges[-1]), (HISTOGRAM_LOW, HISTOGRAM_HIGH))
        mid = int(np.searchsorted(edges, 0.01)) - 1
        self.assertAlmostEqual(shares[mid - 1] + shares[mid], 0.5)
        self.assertAlmostEqual(shares[0], 0.25)
        white = int(np.searchsorted(edges, np.log2(1 / 0.18))) - 1
        self.assertAlmostEqual(shares[white], 0.25)
        self.assertEqual((tones.clipped_share, tones.blocked_share), (0.25, 0.25))

    def test_luminance_of_white_is_its_level_however_the_neutral_is_scaled(self):
        matrix = np.array([[0.9, -0.2, -0.1], [-0.4, 1.2, 0.2], [-0.1, 0.2, 0.6]])
        neutral = np.array([0.48, 1.0, 0.62])
        for scale in (0.5, 1.0, 3.0):
            weights = luminance_weights(matrix, scale * neutral)
            self.assertAlmostEqual(float(weights @ neutral), 1.0)
        green = luminance_weights(-matrix, neutral)
        np.testing.assert_array_equal(green, [0.0, 1.0, 0.0])

    def test_a_meter_value_is_believed_only_near_its_settings(self):
        rows = [
            (3.0, 8.5, 8.0),
            (0.0, 5.5, 5.0),
            (0.0, 12.0, None),
            (0.0, None, None),
            (4.0, None, 9.0),
            (float("nan"), 8.0, None),
            (None, 8.0, None),
        ]
        for brightness, settings, wanted in rows:
            with self.subTest(brightness=brightness, settings=settings):
                self.assertEqual(believable_brightness_ev100(brightness, settings), wanted)

    def test_the_centre_weighs_as_a_bell_that_falls_to_the_sides(self):
        # A bright cell counts by its weight: e^−½ of the middle's one sigma (0.22 widths) away.
        def read(column):
            light = np.full((240, 320), 0.18)
            light[115:125, column : column + 10] *= 9
            centre = next(p for p in patterns(frame_light(light), 3.0) if p.id == "centre")
            return 2.0**centre.stops_from_mid - 1

        for column in (0, 80, 220, 310):
            away, middle = (((at + 5) / 320 - 0.5) / 0.22 for at in (column, 150))
            wanted = np.exp(-0.5 * (away**2 - middle**2))
            self.assertAlmostEqual(read(column) / read(150), wanted, delta=0.01)
