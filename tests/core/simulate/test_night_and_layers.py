"""Stars, layers and pans of the capture model, by measurement."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.simulate.exposing import Camera, CaptureSettings, binned_mode, light_on_sensor
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Layer, SceneMover, Star, StarField
from oxlen.core.simulate.stars import star_light
from oxlen.core.simulate.water import carried_px, drifted_px, spread, wave_hz
from tests.core.simulate.test_simulate import LENS, MODE, flat

LUMA = np.array([0.2126, 0.7152, 0.0722])
SKY = 255


def night(*stars, dec_deg=0.0, roll_deg=0.0, objects=SKY):
    """A black sky with stars, the camera's axis at right ascension 0."""
    scene = flat(1e-12)
    field = StarField(0.0, dec_deg, roll_deg, stars=stars)
    return replace(scene, objects=np.full(scene.objects.shape, objects, np.uint8), star_field=field)


def middle_of(light):
    """Mean place (x, y) of the light, in pixels from the frame's middle."""
    level = light @ LUMA
    ys, xs = np.mgrid[0 : level.shape[0], 0 : level.shape[1]] + 0.5
    x, y = ((level * at).sum() / level.sum() for at in (xs, ys))
    return x - level.shape[1] / 2, y - level.shape[0] / 2


class Stars(unittest.TestCase):
    def test_a_star_gives_the_light_of_its_magnitude(self):
        # A star of magnitude 0 lights a surface facing it with 2.54 µlx.
        for magnitude in (0.0, 2.5, 5.0):
            scene = night(Star(0.0, 0.0, magnitude))
            lux = float((star_light(scene, 1.0) @ LUMA).sum()) / scene.pixels_per_radian**2
            with self.subTest(magnitude=magnitude):
                self.assertAlmostEqual(lux / (2.54e-6 * 10 ** (-0.4 * magnitude)), 1, delta=0.01)

    def test_trails_are_as_long_as_the_sky_turns_and_shorten_by_declination(self):
        for dec_deg in (0.0, 60.0):
            scene = night(Star(0.0, dec_deg, 0.0), dec_deg=dec_deg)
            seconds = 1200.0
            lit = (star_light(scene, seconds) @ LUMA).max(axis=0)
            spread = np.ptp(np.flatnonzero(lit > 0.3 * lit.max())) + 1
            turned = np.radians(15.041 / 3600 * seconds) * np.cos(np.radians(dec_deg))
            with self.subTest(dec_deg=dec_deg):
                wanted = scene.pixels_per_radian * np.tan(turned)
                self.assertAlmostEqual(spread, wanted + 1.5, delta=1.6)

    def test_the_sky_turns_west_and_east_is_on_the_left(self):
        east = middle_of(star_light(night(Star(5.0, 0.0, 0.0)), 1.0))
        high = middle_of(star_light(night(Star(0.0, 5.0, 0.0)), 1.0))
        scene = night(Star(0.0, 0.0, 0.0))
        five_deg = scene.pixels_per_radian * np.tan(np.radians(5))
        np.testing.assert_allclose(east, (-five_deg, 0), atol=0.2)
        np.testing.assert_allclose(high, (0, -five_deg), atol=0.2)
        self.assertGreater(middle_of(star_light(scene, 1200.0))[0], 5)

    def test_warm_stars_are_redder_and_none_shine_through_things(self):
        cool, warm = (
            star_light(night(Star(0.0, 0.0, 0.0, colour_index=colour)), 1.0).sum(axis=(0, 1))
            for colour in (0.0, 1.5)
        )
        self.assertGreater(warm[0] / warm[2], 1.5 * cool[0] / cool[2])
        self.assertEqual(float(star_light(night(Star(0.0, 0.0, 0.0), objects=3), 1.0).max()), 0)


class Layers(unittest.TestCase):
    def passing(self, left, pan_with=None, shutter_s=0.1):
        """Light of a bar of 20 px that passes at 1 m/s before a striped background."""
        ground = flat()
        stripes = ground.radiance.copy()
        stripes[:, ::2] *= 0.5
        bar = Layer(
            "boat",
            np.full((40, 20, 3), 900.0, np.float32),
            np.ones((40, 20), np.float32),
            left=left,
            top=100,
        )
        mover = SceneMover("boat", 2.0, 5.0, image_angle_deg=0.0)
        scene = replace(ground, radiance=stripes, layers=(bar,), movers=(mover,))
        settings = CaptureSettings(100, shutter_s, 5.0, support="tripod", pan_with=pan_with)
        camera = Camera(LENS, binned_mode(MODE, 320, 240))
        return light_on_sensor(scene, camera, settings, random=SeededRandom(1))[..., 1], scene

    def test_a_pan_keeps_what_it_follows_and_smears_the_ground(self):
        still, scene = self.passing(150)
        panned, _ = self.passing(150, pan_with="boat")
        smear = 2.0 / 5.0 * scene.pixels_per_radian * 0.1
        for name, light, slope_px in (("still", still, smear), ("panned", panned, 0.06 * smear)):
            row = light[120, 130:160] / light[120, 155:160].max()
            rise = 1 / np.abs(np.diff(row)).max()
            with self.subTest(name):
                self.assertAlmostEqual(rise, max(slope_px, 1.0), delta=max(0.2 * slope_px, 1.0))
        stripes = [float(light[20].std() / light[20].mean()) for light in (still, panned)]
        self.assertGreater(stripes[0], 0.3)
        self.assertLess(stripes[1], 0.06)

    def test_what_passes_leans_by_its_way_while_the_rows_are_read(self):
        bar = Layer(
            "boat",
            np.full((200, 8, 3), 50, np.float32),
            np.ones((200, 8), np.float32),
            left=150,
            top=20,
        )
        for angle, wanted in ((0.0, 1), (180.0, -1), (90.0, 0)):
            scene = replace(
                flat(1e-9),
                layers=(bar,),
                movers=(SceneMover("boat", 12.0, 5.0, image_angle_deg=angle),),
            )
            camera = Camera(LENS, binned_mode(MODE, 320, 240))
            light = light_on_sensor(
                scene,
                camera,
                CaptureSettings(100, 1 / 4000, 5.0, support="tripod"),
                random=SeededRandom(1),
            )[..., 1]
            xs = np.arange(320)
            upper, lower = ((light[y] * xs).sum() / light[y].sum() for y in (50, 190))
            way = 12.0 / 5.0 * scene.pixels_per_radian * MODE.readout_s * 140 / 240
            with self.subTest(angle=angle):
                self.assertAlmostEqual(lower - upper, wanted * way, delta=0.15)
            self.assertGreater(way, 3)

    def test_light_is_kept_while_a_layer_moves(self):
        short, _ = self.passing(150, shutter_s=0.001)
        long, _ = self.passing(150, shutter_s=0.2)
        # Per second of exposure the frame gathers the same, wherever the bar passes.
        self.assertAlmostEqual(float(long.sum() / short.sum()) / 200, 1, delta=0.01)

    def test_a_layer_may_stand_half_outside_or_wholly(self):
        for left in (-10, 310, -400, 900):
            light, scene = self.passing(left)
            self.assertEqual(light.shape, scene.objects.shape)
            self.assertTrue(np.isfinite(light).all())


class Waves(unittest.TestCase):
    def test_waves_carry_less_with_distance_and_with_time(self):
        def reach(away_m, shutter_s):
            away = np.full((120, 400), away_m, np.float32)
            moved = carried_px(away, 700.0, shutter_s, random=SeededRandom(3), left=-200)
            return float(np.abs(moved[1]).max())

        self.assertAlmostEqual(reach(40, 0.001) / reach(20, 0.001), 0.5, delta=0.15)
        self.assertLess(reach(20, 5.0), 0.25 * reach(20, 0.001))
        # Four times as long, half as often.
        self.assertAlmostEqual(wave_hz(4.0) / wave_hz(1.0), 0.5, places=6)


class Streams(unittest.TestCase):
    def drift(self, seed, *, away_m=4.0, speed_m_s=2.0, angle_deg=90.0):
        mask = np.zeros((160, 200), np.uint8)
        mask[20:140, 30:170] = 1
        away = np.full(mask.shape, away_m, np.float32)
        coarse = drifted_px(
            mask, away, 660.0, speed_m_s=speed_m_s, angle_deg=angle_deg, random=SeededRandom(seed)
        )
        return mask, tuple(spread(part, mask.shape) for part in coarse)

    def test_a_take_finds_the_stream_further_along_or_back_and_never_outside(self):
        found = []
        for seed in range(12):
            mask, (right, down) = self.drift(seed)
            found.append(float(down[80, 100]))
            self.assertAlmostEqual(float(np.abs(right).max()), 0, places=3)
            rows = np.mgrid[0:160, 0:200][0]
            at = np.rint(rows + down).astype(int)[mask > 0]
            self.assertTrue(((at >= 19) & (at <= 140)).all())
        self.assertTrue(min(found) < 0 < max(found))
        self.assertGreater(np.ptp(found), 10)

    def test_it_goes_less_far_when_slow_or_seen_from_afar(self):
        reach = {
            name: max(abs(float(self.drift(seed, **how)[1][1][80, 100])) for seed in range(12))
            for name, how in (
                ("slow", {"speed_m_s": 0.2}),
                ("slower", {"speed_m_s": 0.1}),
                ("further", {"speed_m_s": 0.2, "away_m": 8.0}),
            )
        }
        self.assertAlmostEqual(reach["slower"] / reach["slow"], 0.5, delta=0.01)
        self.assertAlmostEqual(reach["further"] / reach["slow"], 0.5, delta=0.01)
        self.assertLessEqual(reach["slow"], 0.2 * 0.3 * 660 / 4)


if __name__ == "__main__":
    unittest.main()
