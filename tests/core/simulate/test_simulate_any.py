"""What must hold of any scene and any settings: light is linear, positive and accounted for."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from oxlen.core.simulate.blur import kernel_from_rest, path_kernel, sheared, streaked
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode, light_on_sensor
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import (
    Carried,
    Layer,
    SceneLamp,
    SceneMover,
    Star,
    StarField,
    Swing,
)
from tests.core.simulate.test_simulate import LENS, MODE, flat

ROWS, COLUMNS = 48, 64
CAMERA = Camera(LENS, binned_mode(MODE, COLUMNS, ROWS))
few = settings(max_examples=25, deadline=None)


@st.composite
def scenes(draw):
    """A small scene with whatever may move, pulse, flow or shine in it."""
    seed = draw(st.integers(0, 10**6))
    grain = np.random.default_rng(seed)
    scene = flat(size=(ROWS, COLUMNS))
    radiance = grain.gamma(0.7, 30.0, (ROWS, COLUMNS, 3)).astype(np.float32)
    distance = np.exp(grain.uniform(-1, 6, (ROWS, COLUMNS))).astype(np.float32)
    objects = np.where(np.arange(ROWS)[:, None] > draw(st.integers(0, ROWS)), 2, 255)
    objects = np.broadcast_to(objects, (ROWS, COLUMNS)).astype(np.uint8).copy()
    high, wide = draw(st.integers(1, 30)), draw(st.integers(1, 40))
    layer = Layer(
        "boat",
        grain.gamma(1.0, 50.0, (high, wide, 3)).astype(np.float32),
        grain.uniform(0, 1, (high, wide)).astype(np.float32),
        left=draw(st.integers(-60, 90)),
        top=draw(st.integers(-60, 70)),
    )
    speed = draw(st.floats(0, 20))
    movers = (
        SceneMover(
            "boat", speed, draw(st.floats(0.5, 50)), image_angle_deg=draw(st.floats(0, 360))
        ),
        SceneMover(
            "water",
            draw(st.floats(0, 3)),
            5.0,
            image_angle_deg=draw(st.floats(0, 360)),
            objects=("water",),
        ),
    )
    swing = Swing(draw(st.floats(0.05, 3)), draw(st.floats(0, 60)), 4.0, layers=("boat",))
    carried = Carried(
        "boat",
        draw(st.floats(-80, 160)),
        draw(st.floats(-80, 160)),
        diameter_m=draw(st.floats(0.001, 0.5)),
        distance_m=draw(st.floats(0.5, 60)),
        colour=(900.0, 500.0, 100.0),
        water="water",
        mirror_y_px=draw(st.floats(-80, 160)),
        mirror_share=draw(st.floats(0, 1)),
    )
    lamps = (
        SceneLamp("hung", 2000, swing=swing if draw(st.booleans()) else None),
        SceneLamp("carried", 2400, carried=carried if draw(st.booleans()) else None),
        SceneLamp(
            "panel", 4000, 0.0, pulse_hz=draw(st.sampled_from([None, 100.0, 480.0])), depth=0.6
        ),
    )
    stars = StarField(
        10.0, 20.0, 5.0, stars=(Star(10.0, 20.0, 1.0), Star(40.0, 0.0, 3.0, colour_index=1.4))
    )
    return replace(
        scene,
        radiance=radiance,
        distance_m=distance,
        objects=objects,
        object_ids={"water": 2},
        layers=(layer,),
        movers=movers,
        lamps=lamps,
        star_field=stars if draw(st.booleans()) else None,
    )


@st.composite
def takes(draw):
    """CaptureSettings within what a phone might be set to."""
    return CaptureSettings(
        draw(st.sampled_from([50.0, 400.0, 3200.0])),
        draw(st.floats(1e-4, 8.0)),
        draw(st.floats(0.05, 5e4)),
        support=draw(st.sampled_from(["handheld", "braced", "tripod"])),
        pan_with=draw(st.sampled_from([None, "boat", "water", "nobody"])),
        glass_stops=draw(st.floats(0, 12)),
    )


def brighter(scene, factor):
    """The scene with all that gives light so many times as bright, its stars left out."""
    lamps = tuple(
        lamp
        if lamp.carried is None
        else replace(
            lamp,
            carried=replace(lamp.carried, colour=tuple(factor * c for c in lamp.carried.colour)),
        )
        for lamp in scene.lamps
    )
    layers = tuple(
        replace(layer, colour=layer.colour * np.float32(factor)) for layer in scene.layers
    )
    radiance = scene.radiance * np.float32(factor)
    return replace(scene, radiance=radiance, layers=layers, lamps=lamps, star_field=None)


class Light(unittest.TestCase):
    @few
    @given(scenes(), takes(), st.integers(0, 50))
    def test_light_is_finite_positive_and_of_the_frames_shape(self, scene, take, seed):
        kept = scene.radiance.copy()
        light = light_on_sensor(scene, CAMERA, take, random=SeededRandom(seed))
        self.assertEqual(light.shape, (ROWS, COLUMNS, 3))
        self.assertTrue(np.isfinite(light).all())
        self.assertGreaterEqual(float(light.min()), -1e-4 * float(light.max()))
        np.testing.assert_array_equal(scene.radiance, kept)
        again = light_on_sensor(scene, CAMERA, take, random=SeededRandom(seed))
        np.testing.assert_array_equal(light, again)

    @few
    @given(scenes(), takes(), st.floats(0.25, 4))
    def test_twice_the_light_gathers_twice_as_much(self, scene, take, factor):
        andom = light_on_sensor(brighter(scene, 1.0), CAMERA, take, random=SeededRandom(3))
        more = light_on_sensor(brighter(scene, factor), CAMERA, take, random=SeededRandom(3))
        np.testing.assert_allclose(more, factor * andom, rtol=2e-3, atol=2e-4 * float(andom.max()))

    @few
    @given(scenes(), takes())
    def test_a_frame_can_always_be_developed(self, scene, take):
        whole = replace(scene, hfov_deg=80.0)
        codes = capture(whole, LENS, MODE, settings=take, random=SeededRandom(2)).developed()
        self.assertEqual(codes.dtype, np.uint8)
        self.assertEqual(codes.ndim, 3)


class Kernels(unittest.TestCase):
    @few
    @given(st.floats(0.5, 60), st.floats(0, 360), st.integers(0, 1000))
    def test_smears_and_leans_lose_no_light_and_stay_in_place(self, length, angle, seed):
        image = np.zeros((161, 161), np.float32)
        image[80, 80] = 1
        smeared = streaked(image, length, angle)
        self.assertAlmostEqual(float(smeared.sum()), 1, places=3)
        ys, xs = np.mgrid[0:161, 0:161]
        for at in (xs, ys):
            self.assertAlmostEqual(float((smeared * at).sum()), 80, delta=0.35)
        walk = np.random.default_rng(seed).normal(0, length / 8, (50, 2))
        kernel = path_kernel(walk)
        self.assertAlmostEqual(float(kernel.sum()), 1, places=5)
        self.assertEqual(kernel.shape[0] % 2, 1)

    @few
    @given(st.floats(-20, 20), st.floats(-20, 20))
    def test_a_kernel_from_rest_lies_where_the_point_was(self, right, down):
        kernel = kernel_from_rest(np.array([[right, down]]))
        reach = kernel.shape[0] // 2
        ys, xs = np.mgrid[-reach : reach + 1, -reach : reach + 1]
        self.assertAlmostEqual(float((kernel * xs).sum()), right, places=4)
        self.assertAlmostEqual(float((kernel * ys).sum()), down, places=4)

    def test_a_smear_of_many_widths_repeats_the_edges_and_needs_no_kernel_of_its_length(self):
        image = np.random.default_rng(4).uniform(0, 1, (30, 40)).astype(np.float32)
        far, farther = (streaked(image, length, 30.0) for length in (4e3, 4e5))
        # Of so long a way the frame itself is nothing: half is the one corner, half the other.
        corners = (image[0, 0] + image[-1, -1]) / 2
        np.testing.assert_allclose(farther, corners, atol=2e-3)
        np.testing.assert_allclose(far, farther, atol=0.05)

    def test_a_lean_moves_each_row_by_its_distance_from_the_middle(self):
        image = np.zeros((101, 101), np.float32)
        image[:, 50] = 1
        leaned = sheared(image, np.array([0.2, 0.0]), 50.0)
        columns = (leaned * np.arange(101)).sum(axis=1) / leaned.sum(axis=1)
        np.testing.assert_allclose(columns, 50 + 0.2 * (np.arange(101) - 50), atol=0.02)
        self.assertIs(sheared(image, np.array([1e-4, 0.0]), 50.0), image)


if __name__ == "__main__":
    unittest.main()
