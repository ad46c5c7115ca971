"""A scene for a quick look: smaller, and otherwise the same place by the same light."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.simulate.capture import scene_luminance
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode, light_on_sensor
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Carried, Layer, SceneLamp, SceneMover, reduced
from oxlen.core.simulate.variation import varied
from tests.core.simulate.test_simulate import LENS, MODE, flat


def busy():
    """A scene of many parts: a layer that passes, a lamp that is carried, things at distances."""
    scene = flat(size=(240, 336))
    rows, columns = np.mgrid[0:240, 0:336]
    light = scene.radiance * (1 + columns[..., None] / 336).astype(np.float32)
    boat = Layer(
        "boat",
        np.full((30, 60, 3), 40, np.float32),
        np.ones((30, 60), np.float32),
        left=150,
        top=90,
    )
    lamp = Carried("boat", 200.0, 60.0, diameter_m=0.5, distance_m=8.0, colour=(9.0, 6.0, 3.0))
    return replace(
        scene,
        radiance=light,
        distance_m=(2 + rows / 10).astype(np.float32),
        objects=(columns > 167).astype(np.uint8),
        object_ids={"shed": 1},
        layers=(boat,),
        lamps=(SceneLamp("lamp", 2200, carried=lamp),),
        movers=(SceneMover("boat", 1.0, 5.0, image_angle_deg=0.0),),
    )


class Reduced(unittest.TestCase):
    def test_every_part_stands_where_it_stood(self):
        scene, small = busy(), reduced(busy(), 3)
        self.assertEqual((small.width_px, small.height_px), (112, 80))
        np.testing.assert_allclose(small.distance_m, scene.distance_m[1::3, 1::3], rtol=1e-6)
        np.testing.assert_array_equal(
            small.mask_of(("shed",)), scene.mask_of(("shed",))[1::3, 1::3]
        )
        layer, lamp = small.layers[0], small.lamps[0].carried
        self.assertEqual((layer.left, layer.top, layer.cover.shape), (50, 30, (10, 20)))
        np.testing.assert_allclose((lamp.x_px * 3, lamp.y_px * 3), (200.0, 60.0))
        self.assertEqual(lamp.diameter_m, 0.5)
        # The same angles: a third of the pixels to a radian.
        self.assertAlmostEqual(scene.pixels_per_radian / small.pixels_per_radian, 3.0, places=5)
        big, little = scene_luminance(scene), scene_luminance(small)
        means = big.reshape(80, 3, 112, 3).mean(axis=(1, 3))
        np.testing.assert_allclose(little, means, rtol=1e-4)

    def test_motion_takes_the_same_share_of_the_frame(self):
        bright = []
        for step in (1, 3):
            scene = reduced(busy(), step) if step > 1 else busy()
            camera = Camera(LENS, binned_mode(MODE, scene.width_px, scene.height_px))
            light = light_on_sensor(
                scene,
                camera,
                CaptureSettings(100, 0.3, 5.0, support="tripod"),
                random=SeededRandom(1),
            )
            level = light[scene.height_px * 105 // 240, :, 1]
            bright.append(float((level > 1.5 * np.median(level)).mean()))
        self.assertAlmostEqual(bright[0], bright[1], delta=0.02)

    def test_what_is_not_in_it_has_no_place(self):
        self.assertEqual(int(busy().mask_of(("shed", "tram")).sum()), 240 * 168)
        self.assertEqual(int(busy().mask_of(("tram",)).sum()), 0)
        for name, wrong in (
            ("radiance", np.ones((240, 336), np.float32)),
            ("distance", np.ones((10, 10), np.float32)),
            ("objects", np.zeros((10, 10), np.uint8)),
        ):
            field = {"distance": "distance_m"}.get(name, name)
            with self.subTest(name), self.assertRaisesRegex(BadInput, name):
                replace(busy(), **{field: wrong})


class PartlyOutside(unittest.TestCase):
    def test_a_layer_that_has_gone_out_of_the_frame_lights_what_is_left_of_it(self):
        scene = busy()
        (boat,) = scene.layers
        bare = scene_luminance(replace(scene, layers=()))
        for left, columns in ((-20, slice(0, 40)), (306, slice(306, 336)), (-60, slice(0, 0))):
            seen = scene_luminance(replace(scene, layers=(replace(boat, left=left),)))
            wanted = bare.copy()
            wanted[90:120, columns] = 40.0
            with self.subTest(left):
                np.testing.assert_allclose(seen, wanted, rtol=1e-5)


class Varied(unittest.TestCase):
    def test_light_scales_all_that_shines_and_nothing_else(self):
        scene, dim = busy(), varied(busy(), light=0.25)
        np.testing.assert_allclose(scene_luminance(dim), 0.25 * scene_luminance(scene), rtol=1e-5)
        lamps = (scene.lamps[0].carried, dim.lamps[0].carried)
        np.testing.assert_allclose(lamps[1].colour, 0.25 * np.array(lamps[0].colour))
        self.assertEqual(dim.movers, scene.movers)
        np.testing.assert_array_equal(dim.distance_m, scene.distance_m)

    def test_speed_and_distance_are_the_movers_own(self):
        other = varied(busy(), speed=2.0, distance=3.0)
        mover = other.movers[0]
        self.assertEqual((mover.speed_m_s, mover.distance_m), (2.0, 15.0))
        np.testing.assert_array_equal(other.radiance, busy().radiance)
