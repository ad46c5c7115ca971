"""The night scene under other skies, and how far its stars trail on the bench."""

import unittest

import numpy as np

from oxlen.core.light.tone import LUMA
from oxlen.core.review.night_frame import night_frame
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.night_sky import NightSky, under_night
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import FAR_M, StarField
from oxlen.core.simulate.stars import star_place_px
from oxlen.core.sky.brightness import sky_luminance_cd_m2
from oxlen.core.sky.trailing import Star, projected_trail_px, star_trail_px
from oxlen.formats.outing.night_variants import variant_ids
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import scene_truth, shipped_scene

MAIN = shipped_profile("wherry-3").to_phone().lens("main")
SLIP = shipped_scene("stars-over-slip")
SKY = SLIP.objects == 255


def luminance(scene):
    return scene.radiance @ LUMA


class OtherSkies(unittest.TestCase):
    def test_the_sky_between_the_stars_is_as_bright_as_its_magnitude_says(self):
        for magnitude in (18.0, 20.0, 22.0):
            found = luminance(under_night(SLIP, NightSky(magnitude)))
            darkest = float(np.quantile(found[SKY], 0.1))
            self.assertAlmostEqual(darkest / sky_luminance_cd_m2(magnitude), 1.0, delta=0.01)

    def test_glow_moon_and_lamp_light_what_they_should(self):
        dark = luminance(under_night(SLIP, NightSky(21.5)))
        town, moon, lamp = (
            luminance(under_night(SLIP, NightSky(21.5, **more)))
            for more in (
                {"glow_stops": 3.0, "glow_at": 0.8},
                {"moon_altitude_deg": 40.0, "moon_elongation_deg": 180.0},
                {"lamp_lm": 5.0},
            )
        )
        foot = SKY & (np.arange(SLIP.height_px)[:, None] > 0.65 * SLIP.height_px)
        top = SKY & (np.arange(SLIP.height_px)[:, None] < 0.2 * SLIP.height_px)
        self.assertGreater(np.median(town[foot] / dark[foot]), 2)
        self.assertLess(np.median(town[top] / dark[top]), 1.2)
        self.assertGreater(np.median(moon[top] / dark[top]), 8)  # three magnitudes and more
        near = ~SKY & (SLIP.distance_m < 12)
        far = ~SKY & (SLIP.distance_m > 60)
        gained = [float(np.mean(lamp[part]) / np.mean(dark[part])) for part in (near, far)]
        self.assertGreater(gained[0], 4)
        self.assertLess(gained[1], 1.3)
        np.testing.assert_allclose(lamp[SKY], dark[SKY])

    def test_every_variant_ships_with_its_name_and_its_stars(self):
        self.assertGreaterEqual(len(variant_ids()), 4)
        for scene_id in variant_ids():
            scene = shipped_scene(scene_id)
            self.assertEqual((scene.id, scene.name), (scene_id, scene_truth(scene_id).name))
            self.assertEqual(scene.star_field, SLIP.star_field)
            self.assertTrue(np.isfinite(scene.radiance).all())


class Trails(unittest.TestCase):
    def test_a_frame_of_the_bench_tells_its_trails_in_the_middle_and_the_corners(self):
        scene = under_night(SLIP, NightSky(21.0))
        focal_px, dec = scene.pixels_per_radian, SLIP.star_field.axis_dec_deg
        half = np.array([scene.width_px, scene.height_px]) / 2 / focal_px
        for shutter_s, iso in ((30.0, 1600.0), (90.0, 400.0)):
            settings = CaptureSettings(iso, shutter_s, FAR_M, support="tripod")
            shot = capture(scene, MAIN, MAIN.mode(None), settings=settings, random=SeededRandom(3))
            light = np.asarray(demosaiced(shot.raw) @ LUMA, dtype=np.float32)
            found = night_frame(light, mid_ev100=None, focal_px=focal_px)
            middle = float(star_trail_px(focal_px / 1000, 1.0, shutter_s, declination_deg=dec))
            # The camera is rolled against the equator, which turns the corners among themselves.
            roll = np.radians(SLIP.star_field.roll_deg)
            turned = np.array([[np.cos(roll), -np.sin(roll)], [np.sin(roll), np.cos(roll)]])
            corner = max(
                self.told_px(turned @ (half * sides), focal_px, shutter_s, dec=dec)
                for sides in ((-1, -1), (-1, 1), (1, -1), (1, 1))
            )
            for seen, reported in ((found.trail_px, middle), (found.corner_trail_px, corner)):
                with self.subTest(shutter_s=shutter_s, told=reported):
                    self.assertAlmostEqual(seen, reported, delta=max(0.5, 0.05 * reported))

    def told_px(self, place, focal_px, shutter_s, *, dec):
        """The projected form for a star at standard coordinates (x, y) from the axis."""
        x, y = place
        ahead = np.cos(np.radians(dec)) - y * np.sin(np.radians(dec))
        up = np.sin(np.radians(dec)) + y * np.cos(np.radians(dec))
        hour, height = np.arctan2(x, ahead), np.arctan2(up, np.hypot(x, ahead))
        star = Star(float(np.degrees(hour)), float(np.degrees(height)))
        return float(
            projected_trail_px(focal_px / 1000, 1.0, shutter_s, axis_dec_deg=dec, star=star)
        )

    def test_stars_trail_as_far_as_the_projected_form_says_in_the_middle_and_the_corners(self):
        focal_px = SLIP.pixels_per_radian
        for dec in (-20.0, 0.0, 45.0):
            field = StarField(0.0, dec, 0.0, stars=())
            for hour, star_dec in ((0.0, dec), (25.0, dec), (-25.0, dec + 18)):
                ends = [
                    star_place_px(SLIP, field, -hour, dec_deg=star_dec, after_s=after)
                    for after in (0.0, 40.0)
                ]
                length = float(np.hypot(*np.subtract(*ends)))
                wanted = projected_trail_px(
                    focal_px / 1000, 1.0, 40.0, axis_dec_deg=dec, star=Star(hour, star_dec)
                )
                self.assertAlmostEqual(length, float(wanted), delta=0.02 * float(wanted) + 0.01)
