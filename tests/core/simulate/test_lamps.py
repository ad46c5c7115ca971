"""Lamps in motion: swings, trails and their image in the water, by measurement."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.simulate.capture import seen_through
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode, light_on_sensor
from oxlen.core.simulate.lamps import swing_kernel, swing_path_px, swing_period_s
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Carried, Layer, SceneLamp, SceneMover, Swing, reduced
from oxlen.formats.scene_file import scene_truth, shipped_scene
from tests.core.simulate.test_simulate import LENS, MODE, PROFILE, flat

SWING = Swing(0.24, 12.0, 4.9, layers=("lantern",))
PX_PER_RADIAN = 660.0
FURTHEST_PX = 0.24 * np.sin(np.radians(12.0)) / 4.9 * PX_PER_RADIAN


def lit(scene, shutter_s, seed=1):
    """Light of a scene in cd/m² (green), as gathered on a tripod."""
    camera = Camera(LENS, binned_mode(MODE, scene.width_px, scene.height_px))
    settings = CaptureSettings(100, shutter_s, 5.0, support="tripod")
    light = light_on_sensor(scene, camera, settings, random=SeededRandom(seed))[..., 1]
    return light * 2.0 ** settings.ev100_set(LENS.f_number) * 0.125


def centre(light):
    """Mean place (x, y) of light."""
    ys, xs = np.mgrid[0 : light.shape[0], 0 : light.shape[1]] + 0.5
    return np.array([(light * at).sum() / light.sum() for at in (xs, ys)])


def hung(amplitude_deg=12.0):
    """A black scene with one lantern of 4 px at its middle."""
    disc = Layer(
        "lantern", np.full((4, 4, 3), 900, np.float32), np.ones((4, 4), np.float32), left=0, top=0
    )
    swing = replace(SWING, amplitude_deg=amplitude_deg)
    scene = flat(1e-9, size=(240, 320), lamps=(SceneLamp("lanterns", 2000, swing=swing),))
    return replace(scene, layers=(replace(disc, left=158, top=118),))


def rowed(speed_m_s=0.9, **more):
    """A black scene: a lamp of 0.3 m rowed past 12 m away, half-way down the frame."""
    lamp = Carried(
        "boat", 160.5, 100.5, diameter_m=0.3, distance_m=12.0, colour=(500.0, 500.0, 500.0), **more
    )
    empty = Layer(
        "boat", np.zeros((2, 2, 3), np.float32), np.zeros((2, 2), np.float32), left=160, top=100
    )
    scene = flat(1e-9, size=(240, 320), lamps=(SceneLamp("lamp", 2400, carried=lamp),))
    distance = np.full((240, 320), 50.0, np.float32)
    mover = SceneMover("boat", speed_m_s, 12.0, image_angle_deg=180.0)
    return replace(scene, layers=(empty,), movers=(mover,), distance_m=distance)


class Swinging(unittest.TestCase):
    def test_a_swing_comes_back_after_its_period(self):
        # 2π·√(0.24/9.81) s.
        self.assertAlmostEqual(swing_period_s(0.24), 0.9828, places=3)
        for begin, wanted in ((0.0, 1), (0.25, 0), (0.5, -1), (1.0, 1)):
            path = swing_path_px(SWING, PX_PER_RADIAN, 1e-4, begin=begin)
            with self.subTest(begin=begin):
                self.assertAlmostEqual(path[:, 0].mean(), wanted * FURTHEST_PX, delta=0.01)
        # At its ends the lamp is higher than at rest, by l·(1 − cos).
        rise = 0.24 * (1 - np.cos(np.radians(12.0))) / 4.9 * PX_PER_RADIAN
        self.assertAlmostEqual(
            swing_path_px(SWING, PX_PER_RADIAN, 1e-4, begin=0)[0, 1], -rise, places=3
        )

    def test_the_streak_is_as_wide_as_the_swing_and_brightest_at_its_ends(self):
        for swings in (0.5, 1.0, 3.0, 40.0):
            path = swing_path_px(SWING, PX_PER_RADIAN, swings * swing_period_s(0.24), begin=0.25)
            with self.subTest(swings=swings):
                self.assertAlmostEqual(np.ptp(path[:, 0]), 2 * FURTHEST_PX, delta=0.2)
                # A sine spends 2/π·acos(0.9) of its time beyond nine tenths of its reach.
                beyond = (np.abs(path[:, 0]) > 0.9 * FURTHEST_PX).mean()
                self.assertAlmostEqual(beyond, 2 / np.pi * np.arccos(0.9), delta=0.02)

    def test_a_frame_catches_the_lantern_where_it_is_and_loses_no_light(self):
        scene = hung()
        still = lit(hung(0.0), 1 / 100)
        scale = scene.pixels_per_radian / PX_PER_RADIAN
        seen = set()
        for seed in range(6):
            light = lit(scene, 1 / 100, seed)
            off = centre(light) - centre(still)
            seen.add(round(float(off[0]), 1))
            self.assertLess(abs(off[0]), scale * FURTHEST_PX + 0.3)
            self.assertAlmostEqual(light.sum() / still.sum(), 1, delta=0.002)
        self.assertGreater(len(seen), 3)
        self.assertGreater(max(seen) - min(seen), scale * FURTHEST_PX)

    def test_long_exposures_smear_it_along_its_arc(self):
        light = lit(hung(), swing_period_s(0.24))
        columns = np.flatnonzero(light.max(axis=0) > 0.1 * light.max())
        reach = 2 * FURTHEST_PX * flat().pixels_per_radian / PX_PER_RADIAN
        self.assertAlmostEqual(np.ptp(columns) + 1, reach + 4, delta=1.0)
        kernel, shift = swing_kernel(SWING, PX_PER_RADIAN, 1e-3, begin=0.0)
        self.assertAlmostEqual(float(kernel.sum()), 1, places=5)
        # Caught at its furthest: nearly all of it is a shift, little is left to filter.
        self.assertEqual(shift, (round(FURTHEST_PX), -1))
        self.assertLessEqual(kernel.shape[0], 5)


class Carrying(unittest.TestCase):
    def test_a_still_lamp_has_its_luminance_and_its_size(self):
        scene = rowed(0.0)
        light = lit(scene, 1 / 50)
        diameter = 0.3 / 12 * scene.pixels_per_radian
        self.assertAlmostEqual(light.max() / 500, 1, delta=0.01)
        self.assertAlmostEqual(light.sum() / (500 * np.pi / 4 * diameter**2), 1, delta=0.01)
        np.testing.assert_allclose(centre(light), (160.5, 100.5), atol=0.05)

    def test_a_trail_is_as_long_as_its_way_and_as_bright_as_its_dwell(self):
        for shutter_s in (2.0, 5.0):
            scene = rowed()
            light = lit(scene, shutter_s)
            diameter = 0.3 / 12 * scene.pixels_per_radian
            way = 0.9 / 12 * scene.pixels_per_radian * shutter_s
            along = light.max(axis=0) > 0.5 * light.max()
            with self.subTest(shutter_s=shutter_s):
                self.assertAlmostEqual(along.sum(), way, delta=max(1.5, 0.03 * way))
                # A place under the middle of the way has the lamp before it for d/u of t.
                middle = light[:, 150:170].max(axis=0).mean()
                self.assertAlmostEqual(middle / (500 * diameter / way), 1, delta=0.04)

    def test_what_is_nearer_hides_it_and_the_frame_cuts_it(self):
        scene = rowed()
        near = scene.distance_m.copy()
        near[:, 150:] = 5.0
        light = lit(replace(scene, distance_m=near), 4.0)
        self.assertEqual(light[:, 150:].max(), light.min())
        self.assertGreater(light[:, :148].max(), 1.0)
        away = replace(scene.lamps[0].carried, x_px=-900.0)
        gone = lit(replace(scene, lamps=(SceneLamp("lamp", 2400, carried=away),)), 1.0)
        self.assertLess(gone.max(), 1e-3)

    def mirrored(self, shutter_s, seed=1):
        scene = rowed(0.0, water="water", mirror_y_px=170.0, mirror_share=0.4)
        objects = np.zeros((240, 320), np.uint8)
        objects[140:] = 3
        scene = replace(scene, objects=objects, object_ids={"water": 3})
        light = lit(scene, shutter_s, seed)
        return light[104:140], light[140:]

    def test_its_image_lies_on_the_water_drawn_out_towards_the_eye(self):
        above, below = self.mirrored(30.0)
        self.assertLess(above.max(), 1e-3)
        globe = 500 * np.pi / 4 * (0.3 / 12 * flat().pixels_per_radian) ** 2
        self.assertAlmostEqual(below.sum() / globe, 0.4, delta=0.02)
        self.assertAlmostEqual(centre(below)[0], 160.5, delta=0.1)
        self.assertAlmostEqual(centre(below)[1], 30, delta=0.6)

        def spread(axis):
            at = np.arange(below.shape[1 - axis]) + 0.5
            share = below.sum(axis=axis) / below.sum()
            return np.sqrt((share * at**2).sum() - (share * at).sum() ** 2)

        self.assertGreater(spread(1), 3 * spread(0))

    def test_ripples_break_it_in_a_short_frame_and_settle_in_a_long_one(self):
        def roughness(light):
            rows = light.sum(axis=1)[15:45]
            return np.abs(np.diff(rows, 2)).mean() / rows.mean()

        short, long = (roughness(self.mirrored(t)[1]) for t in (1 / 100, 30.0))
        self.assertGreater(short, 5 * long)
        mover, other = (self.mirrored(1 / 100, seed)[1] for seed in (1, 2))
        self.assertGreater(np.abs(mover - other).sum() / mover.sum(), 0.2)


class Framing(unittest.TestCase):
    def test_a_carried_lamp_stays_in_its_place_through_crop_and_reduction(self):
        scene = replace(rowed(0.0), hfov_deg=90.0)
        cut = seen_through(scene, LENS, MODE)
        off = (scene.width_px - cut.width_px) / 2
        self.assertAlmostEqual(centre(lit(cut, 1.0))[0], 160.5 - off, delta=0.6)
        small = reduced(scene, 2)
        np.testing.assert_allclose(centre(lit(small, 1.0)), (80.25, 50.25), atol=0.1)

    def test_a_pan_follows_the_nearest_that_moves_and_smears_the_rest(self):
        scene = rowed()
        walker = Layer(
            "walker",
            np.full((6, 6, 3), 80, np.float32),
            np.ones((6, 6), np.float32),
            left=40,
            top=180,
        )
        scene = replace(
            scene,
            layers=(*scene.layers, walker),
            movers=(*scene.movers, SceneMover("walker", 1.1, 4.3, image_angle_deg=0.0)),
        )
        self.assertEqual(scene.subject_that_moves, "walker")
        camera = Camera(LENS, binned_mode(MODE, 320, 240))
        panned = CaptureSettings(100, 0.5, 5.0, support="tripod", pan_with="walker")
        light = light_on_sensor(scene, camera, panned, random=SeededRandom(1))[..., 1]

        def length(rows):
            row = light[rows].max(axis=0)
            return (row > 0.5 * row.max()).sum()

        pan = 1.1 / 4.3 * 0.5 * scene.pixels_per_radian
        boat = 0.9 / 12 * 0.5 * scene.pixels_per_radian
        self.assertAlmostEqual(length(slice(178, 188)), 6, delta=1)
        self.assertAlmostEqual(length(slice(90, 110)), pan + boat, delta=1.5)


class Shipped(unittest.TestCase):
    def test_the_lantern_evening_has_lamps_that_swing_and_one_that_is_rowed(self):
        truth, scene = scene_truth("lantern-evening"), shipped_scene("lantern-evening")
        names = {layer.name for layer in scene.layers}
        swing = next(lamp.swing for lamp in scene.lamps if lamp.swing)
        carried = next(lamp.carried for lamp in scene.lamps if lamp.carried)
        self.assertGreaterEqual(len(swing.layers), 4)
        self.assertLessEqual(set(swing.layers), names)
        self.assertIn(carried.mover, names)
        self.assertEqual(scene.subject_that_moves, "walker")
        # Behind a lantern is the evening, not the lantern.
        lantern = next(layer for layer in scene.layers if layer.name == swing.layers[0])
        rows = slice(lantern.top, lantern.top + lantern.cover.shape[0])
        columns = slice(lantern.left, lantern.left + lantern.cover.shape[1])
        self.assertLess(scene.radiance[rows, columns].max(), 40)
        self.assertGreater(np.median(lantern.colour[lantern.cover > 0.99]), 150)
        self.assertEqual(PROFILE.to_phone().lens("main").id, LENS.id)
        self.assertTrue(all(lamp.cct_k > 1000 for lamp in truth.lamps))
