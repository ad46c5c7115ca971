"""A take is judged by what it shows; what cannot be judged is left out."""

import tempfile
import unittest
from pathlib import Path

import cv2
import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.review.own_blur import own_blur
from oxlen.core.review.take_seen import PlannedSpot, TakeSettings
from oxlen.takes.checking import (
    check_file,
    check_names,
)
from oxlen.takes.planned import PlannedTake
from tests.counts import seeds
from tests.pictures.making import exif, jpeg

SLIP = TakeSettings(50.0, 1 / 100)
SHOT = {"iso": 50, "shutter": (1, 100)}
WALL, PLATE = Spot("wall", 0.25, 0.5, 0.08), Spot("plate", 0.8, 0.3, 0.03)
HULL = (PlannedSpot("hull", "subject", 0.0, 0.0),)
SKY = Spot("sky", 0.5, 0.5, 0.1)


def wall(seed=3, size=(600, 800)):
    """Codes of a wall whose detail falls off as that of pictures does, around mid."""
    draw = np.random.default_rng(seed)
    waves = np.fft.rfft2(draw.normal(size=size))
    rows, columns = np.fft.fftfreq(size[0])[:, None], np.fft.rfftfreq(size[1])[None, :]
    soft = np.fft.irfft2(waves / np.maximum(np.hypot(rows, columns), 0.004), s=size)
    return np.clip(118 + 26 * soft / soft.std(), 8, 225)


def smeared(codes, px):
    return cv2.filter2D(codes.astype(np.float32), -1, np.full((1, px), 1 / px, np.float32))


def noisy(codes, sigma, seed=5):
    return codes + np.random.default_rng(seed).normal(0, sigma, codes.shape)


class InFolder(unittest.TestCase):
    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)

    def kept(self, name, codes, **tags):
        path = self.folder / name
        grey = np.repeat(np.clip(codes, 0, 255)[..., None], 3, axis=2)
        path.write_bytes(jpeg(grey, exif(**tags) if tags else None))
        return path

    def checked(self, take, reference=None, spots=(WALL,), *, planned=None, tags=SHOT, **plan):
        named = planned or tuple(PlannedSpot(spot.name, "subject", 0.0, 0.0) for spot in spots)
        against = PlannedTake(SLIP, named, tuple(spots), **plan)
        pair = None
        if reference is not None:
            pair = (self.kept("planned.jpg", reference, **SHOT), "planned.jpg")
        path = self.kept("take.jpg", take, **tags)
        return check_file(path, "take.jpg", reference=pair, plan=against)


class Lost(InFolder):
    def test_a_small_highlight_that_clipped_is_lost_whatever_the_frame_gained(self):
        base = wall()
        lit = base.copy()
        lit[150:210, 600:680], base[150:210, 600:680] = 255, 200
        planned = (
            PlannedSpot("wall", "subject", 0.0, 0.0),
            PlannedSpot("plate", "keep-bright", 2.4, 1.7),
        )
        found = self.checked(lit, base, (WALL, PLATE), planned=planned)
        self.assertEqual(found.check.state, "change")
        self.assertIn("plate is clipped", found.check.change.why)
        self.assertGreater(found.check.change.light_stops, 0.5)
        # Given up by the plan, it is no fault.
        given_up = (planned[0], PlannedSpot("plate", "keep-bright", 2.4, 3.0, may_be_lost=True))
        kept = self.checked(lit, base, (WALL, PLATE), planned=given_up)
        self.assertEqual(kept.check.state, "keep")

    def test_what_is_read_of_the_rest_never_overrules_a_spot_s_own_black(self):
        base = wall()
        dark = base.copy()
        dark[150:210, 600:680], base[150:210, 600:680] = 0, 90
        planned = tuple(PlannedSpot(name, "subject", 0.0, 0.0) for name in ("wall", "plate"))
        found = self.checked(dark, base, (WALL, PLATE), planned=planned)
        self.assertIn("plate is black", found.check.change.why)
        self.assertLess(found.check.change.light_stops, 0)


class NothingMeasured(InFolder):
    def test_without_a_spot_the_frame_as_a_whole_is_judged(self):
        spoilt = smeared(wall(), 20)
        spoilt[:, :270] = 255
        for reference in (None, wall()):
            found = self.checked(spoilt, reference, (), planned=HULL)
            with self.subTest(reference is None):
                self.assertEqual(found.check.state, "change")
                stated = " ".join(found.check.verdict)
                self.assertIn("of the frame is clipped", stated)
                self.assertNotIn("As planned", stated)

    def test_less_light_than_was_metered_is_seen_without_a_spot(self):
        found = self.checked(wall() * 0.62, wall(), (), planned=HULL)
        self.assertEqual(found.check.state, "change")
        self.assertLess(found.check.change.light_stops, -0.8)
        same = self.checked(wall(), wall(), (), planned=HULL)
        self.assertEqual((same.check.state, same.check.spots), ("keep", ()))

    def test_a_plain_sky_is_aligned_and_says_what_could_not_be_judged(self):
        sky = noisy(np.linspace(90, 140, 600)[:, None] * np.ones((1, 800)), 2)
        planned = (PlannedSpot("sky", "subject", 0.0, 0.0),)
        found = self.checked(sky, sky, (SKY,), planned=planned)
        self.assertNotIn("aligned", " ".join(found.notes))
        self.assertEqual(found.check.state, "not judged")
        self.assertIn("Sharpness", found.check.verdict[0])
        self.assertEqual(found.check.change.what, "nothing")
        self.assertNotIn("Save", found.check.change.words)

    def test_another_scene_cannot_be_aligned_and_is_not_kept(self):
        found = self.checked(wall(9), wall(3))
        self.assertNotEqual(found.check.state, "keep")
        self.assertIn("could not be aligned", " ".join(found.notes))

    def test_a_spot_the_plan_does_not_have_is_refused_by_name(self):
        against = PlannedTake(SLIP, (PlannedSpot("hull", "subject", 0, 0),), (WALL,))
        with self.assertRaisesRegex(BadInput, "no spot named “wall”. It has hull"):
            check_names(against)

    def test_without_its_settings_nobody_says_which_it_was(self):
        found = self.checked(wall() * 0.62, wall(), tags=dict.fromkeys(SHOT | {"f_number": 1}))
        stated = found.check.verdict[0]
        self.assertIn("shot at different settings, or the light changed", stated)
        self.assertIn("ISO 50, 1/100 s", found.check.change.words)


class Noise(InFolder):
    def test_far_noisier_than_predicted_comes_before_any_darker_picture(self):
        base = cv2.GaussianBlur(wall(), (0, 0), 3)
        bright = noisy(base * 1.25, 25)
        found = self.checked(bright, base, snr=40.0)
        self.assertIn("noisier than predicted", found.check.verdict[0])
        self.assertNotIn("darker", found.check.change.words)


class BlurByItself(unittest.TestCase):
    def test_long_smears_and_wide_discs_are_seen_and_sharp_pictures_are_not(self):
        for seed in seeds(4, 30):
            sharp = noisy(wall(seed), 1.5).astype(np.float32) ** 2.2
            disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (17, 17)).astype(np.float32)
            with self.subTest(seed):
                self.assertEqual(own_blur(sharp).px, 0.0)
                smear = own_blur(smeared(sharp, 20))
                self.assertTrue(smear.is_smear)
                self.assertTrue(8 <= smear.px <= 40, smear.px)
                self.assertGreaterEqual(own_blur(cv2.filter2D(sharp, -1, disc / disc.sum())).px, 8)

    def test_a_plain_or_clipped_frame_tells_nothing(self):
        plain = np.random.default_rng(1).normal(100, 2, (600, 800)).astype(np.float32)
        self.assertIsNone(own_blur(plain))
        self.assertIsNone(own_blur(np.full((600, 800), 255.0, np.float32)))
