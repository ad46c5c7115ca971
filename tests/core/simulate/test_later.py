"""A scene some seconds on: the sky has turned, boats have gone on, light comes and goes."""

import math
import unittest

import numpy as np

from oxlen.core.simulate.later import CLOUD_STOPS, later
from oxlen.formats.scene_file import shipped_scene


def layer(scene, name):
    return next(item for item in scene.layers if item.name == name)


class Later(unittest.TestCase):
    def test_the_sky_turns_once_in_a_sidereal_day(self):
        night = shipped_scene("stars-over-slip")
        for seconds, degrees in ((240.0, 1.00274), (86164.0905 / 2, 180.0)):
            turned = later(night, seconds).star_field.axis_ra_deg - night.star_field.axis_ra_deg
            self.assertAlmostEqual(turned, degrees, delta=0.001)
        self.assertIs(later(night, 0.0).radiance, night.radiance)

    def test_what_crosses_goes_on_at_its_speed_and_another_comes_after_it(self):
        scene = shipped_scene("dinghy-passing")
        mover = next(item for item in scene.movers if not item.objects)
        before = layer(scene, mover.name)
        way_px = mover.speed_m_s / mover.distance_m * scene.pixels_per_radian
        angle = math.radians(mover.image_angle_deg)
        soon = layer(later(scene, 0.5), mover.name)
        self.assertAlmostEqual(soon.left - before.left, 0.5 * way_px * math.cos(angle), delta=1)
        self.assertAlmostEqual(soon.top - before.top, 0.5 * way_px * math.sin(angle), delta=1)
        # An hour on it is long gone: another of its kind is somewhere on its way.
        width = before.cover.shape[1]
        for seconds in (60.0, 600.0, 3600.0):
            left = layer(later(scene, seconds), mover.name).left
            self.assertTrue(-width <= left <= 1.6 * (scene.width_px + width))
            alone = layer(later(scene, seconds, again=False), mover.name).left
            self.assertGreater(abs(alone - before.left), abs(left - before.left))

    def test_daylight_comes_and_goes_by_a_little_and_the_scene_is_left_as_it_was(self):
        scene = shipped_scene("yard-overcast")
        kept = scene.radiance.copy()
        gains = [
            float(np.median(later(scene, at, daylight=True).radiance / kept)) for at in range(48)
        ]
        stops = np.log2(gains)
        self.assertAlmostEqual(stops.max(), CLOUD_STOPS, delta=0.001)
        self.assertAlmostEqual(stops.min(), -CLOUD_STOPS, delta=0.001)
        np.testing.assert_array_equal(scene.radiance, kept)

    def test_a_lamp_goes_with_who_carries_it(self):
        scene = shipped_scene("lantern-evening")
        carried = next(lamp.carried for lamp in scene.lamps if lamp.carried is not None)
        then = later(scene, 2.0)
        same = next(lamp.carried for lamp in then.lamps if lamp.carried is not None)
        gone = layer(then, carried.mover).left - layer(scene, carried.mover).left
        self.assertNotEqual(gone, 0)
        self.assertAlmostEqual(same.x_px - carried.x_px, gone)


if __name__ == "__main__":
    unittest.main()
