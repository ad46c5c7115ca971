"""Development notes from pictures whose faults are known, and what a recipe does to light."""

import unittest

import numpy as np

from oxlen.core.colour.white_point import dial_linear_srgb
from oxlen.core.develop.developing import developed, developed_bands
from oxlen.core.develop.night_notes import night_look, night_sentences
from oxlen.core.develop.notes import TakeLight, development_notes, stray_strip
from oxlen.core.develop.recipe import Gradient, Oval, Recipe
from oxlen.core.errors import OutOfRange
from oxlen.core.review.skyline import Skyline

PLAIN = Recipe(sharpening=0.0)


def flat(stops=0.0, size=(120, 160)):
    return np.full((*size, 3), 2.0**stops, np.float32)


def linear(codes):
    """Linear light of sRGB codes, in stops from mid."""
    codes = np.asarray(codes, dtype=float)
    light = np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4)
    return np.log2(np.maximum(light, 1e-6) / 0.18)


def notes(colour, **about):
    return development_notes(TakeLight(colour, about.pop("snr_at", lambda _: 60.0), **about))


class Developing(unittest.TestCase):
    def test_mid_stays_mid_and_exposure_moves_it_stop_for_stop(self):
        for stops in (-2.0, 0.0, 1.0):
            found = linear(developed(flat(), Recipe(exposure_stops=stops, sharpening=0.0)))
            self.assertAlmostEqual(float(found.mean()), stops, delta=0.02)

    def test_the_light_that_is_named_comes_out_neutral(self):
        warm = flat() * np.asarray(dial_linear_srgb(3000.0, 0.0), np.float32)
        as_it_is = developed(warm, PLAIN)[60, 80]
        found = developed(warm, Recipe(white_k=3000.0, sharpening=0.0))[60, 80]
        self.assertGreater(float(np.ptp(as_it_is)), 0.3)
        self.assertLess(float(np.ptp(found)), 0.005)

    def test_shadows_rise_highlights_fall_and_mid_stays(self):
        recipe = Recipe(shadows_stops=1.5, highlights_stops=1.0, sharpening=0.0)
        for stops, moves in ((-5.0, 1.5), (0.0, 0.0), (2.4, -0.95)):
            before = linear(developed(flat(stops), PLAIN)).mean()
            after = linear(developed(flat(stops), recipe)).mean()
            with self.subTest(stops):
                # The shoulder bends what is bright.
                self.assertAlmostEqual(
                    float(after - before), moves, delta=0.45 if moves < 0 else 0.1
                )

    def test_gradient_and_oval_act_at_their_places_alone(self):
        recipe = Recipe(
            gradient=Gradient(0.4, -1.0, fade_share=0.1),
            oval=Oval(0.5, 0.8, across=0.1, down=0.1, stops=1.0),
            sharpening=0.0,
        )
        found = linear(developed(flat(), recipe)).mean(axis=2)
        for row, column, wanted in ((10, 80, -1.0), (70, 20, 0.0), (96, 80, 1.0), (48, 80, -0.5)):
            self.assertAlmostEqual(found[row, column], wanted, delta=0.1)

    def test_crop_and_level_frame_it_without_empty_corners(self):
        draw = np.random.default_rng(1).uniform(0.5, 1.5, (120, 160, 1))
        colour = np.repeat(draw, 3, axis=2).astype(np.float32)
        cut = developed(colour, Recipe(crop=(0.1, 0.0, 1.0, 0.9), level_deg=4.0))
        self.assertEqual(cut.shape, (108, 144, 3))
        self.assertGreater(float(cut.min()), 0.2)
        with self.assertRaises(OutOfRange):
            Recipe(crop=(0.5, 0.0, 0.51, 1.0))

    def test_in_bands_it_is_the_same_picture(self):
        draw = np.random.default_rng(2).uniform(0.05, 3.0, (600, 90, 3)).astype(np.float32)
        recipe = Recipe(noise_reduction=0.5, sharpening=0.5, local_contrast=0.4, shadows_stops=1)
        bands = list(developed_bands(draw, recipe))
        self.assertEqual([len(band) for band in bands], [256, 256, 88])
        plain = developed(draw[:256], recipe)
        self.assertLess(float(np.abs(bands[0][:200] - plain[:200]).mean()), 0.03)

    def test_noise_reduction_calms_plain_places_and_keeps_an_edge(self):
        draw = np.random.default_rng(3)
        colour = flat() * draw.normal(1, 0.15, (120, 160, 3)).astype(np.float32)
        colour[:, 80:] *= 8
        rough = developed(colour, PLAIN)
        calm = developed(colour, Recipe(noise_reduction=0.85, sharpening=0.0))
        self.assertLess(calm[:, 10:70].std(), 0.6 * rough[:, 10:70].std())
        step = calm[:, 90:].mean() - calm[:, 10:70].mean()
        self.assertAlmostEqual(
            float(step), float(rough[:, 90:].mean() - rough[:, 10:70].mean()), delta=0.02
        )


class Notes(unittest.TestCase):
    def test_exposure_white_and_level_are_what_is_off(self):
        found = notes(
            flat(-1.3), subject_stops=-1.3, wanted_stops=0.5, white_k=4312.0, lean_deg=-1.8
        ).recipe
        self.assertEqual((found.exposure_stops, found.white_k), (1.8, 4300.0))
        self.assertEqual(found.level_deg, 1.8)
        self.assertEqual(notes(flat(), lean_deg=0.1).recipe.level_deg, 0.0)

    def test_shadows_are_lifted_as_far_as_their_noise_bears(self):
        dark = flat(-5.5)
        dark[:20] = 1.0
        for snr, bears in ((80.0, 3.0), (20.0, 2.0), (5.0, 0.0)):
            found = notes(dark, snr_at=lambda _, snr=snr: snr, subject_stops=0.0, wanted_stops=0.0)
            with self.subTest(snr=snr):
                self.assertAlmostEqual(found.lift_bears_stops, bears)
                self.assertLessEqual(found.recipe.shadows_stops, bears)
        classes = {60.0: "none", 25.0: "light", 12.0: "medium", 4.0: "strong"}
        for snr, name in classes.items():
            self.assertEqual(notes(flat(), snr_at=lambda _, snr=snr: snr).noise, name)

    def test_a_bright_sky_asks_for_a_gradient_at_its_edge(self):
        sky = Skyline(0.4, 0.42, tilt_deg=1.0, over_land_stops=3.0)
        found = notes(flat(), sky=sky)
        self.assertEqual(found.recipe.gradient, Gradient(0.42, -1.4, tilt_deg=1.0))
        self.assertTrue(
            any(
                "3.0 stops brighter than the foreground" in sentence for sentence in found.sentences
            )
        )
        even = Skyline(0.4, 0.42, tilt_deg=1.0, over_land_stops=1.2)
        self.assertIsNone(notes(flat(), sky=even).recipe.gradient)

    def test_a_night_sky_is_told_its_black_its_cast_and_its_glow(self):
        draw = np.random.default_rng(2)
        rows = np.linspace(0, 1, 240)[:, None]
        level = 2.0 ** (-3.5 + 1.2 * np.clip(rows - 0.6, 0, 1) / 0.4) * np.ones((1, 320))
        colour = level[..., None] * np.array([1.3, 1.35, 0.9])
        colour = (colour * draw.normal(1, 0.05, colour.shape)).astype(np.float32)
        colour[::37, ::41] = 4.0  # stars
        seen = night_look(colour)
        self.assertAlmostEqual(seen.warm_stops, np.log2(1.3 / 0.9), delta=0.03)
        self.assertAlmostEqual(seen.green_stops, np.log2(1.35 / np.sqrt(1.3 * 0.9)), delta=0.03)
        self.assertAlmostEqual(seen.horizon_stops, 1.1, delta=0.15)
        words = " ".join(night_sentences(seen))
        for part in ("black point", "green", "Cooler", "gradient"):
            self.assertIn(part, words)
        plain = np.full((240, 320, 3), 2.0**-5.4, dtype=np.float32)
        self.assertEqual(list(night_sentences(night_look(plain))), [])

    def test_a_white_strip_at_an_edge_is_cropped_and_a_white_sky_is_not(self):
        stops = np.full((200, 300), -1.0)
        stops[180:] = 2.2
        self.assertEqual(stray_strip(stops), (0.0, 0.0, 1.0, 0.895))
        stops[180:] = -1.0
        stops[:, :30] = 2.2
        self.assertEqual(stray_strip(stops)[0], 0.103)
        fading = np.linspace(2.4, -2, 200)[:, None].repeat(300, 1)
        self.assertEqual(stray_strip(fading), (0.0, 0.0, 1.0, 1.0))
