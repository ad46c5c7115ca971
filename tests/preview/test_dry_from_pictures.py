"""Dry runs from pictures of one's own: a take exposed anew is the take that would have been."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from oxlen.core.light.tone import srgb_to_linear
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.pictures.opening import open_picture
from oxlen.preview.cache import PreviewCache
from oxlen.preview.dry_run import FrameRequest, dry_run
from tests.in_library import InLibrary
from tests.pictures.making import dng, mosaic

TAKEN_AT = "2026:10:03 12:00:00"
PROFILE = shipped_profile("wherry-3")
MAIN = PROFILE.to_phone().lens("main")
DAY = ("white-hull-sun", CaptureSettings(50, 1 / 4000, 6.0, support="tripod"))
EVENING = ("lantern-evening", CaptureSettings(400, 1 / 15, 4.0, support="tripod"))


class FromPictures(InLibrary):
    def setUp(self):
        self.dry_room = PreviewCache(self.room)

    def predicted(self, body, settings, **more):
        wanted = FrameRequest(iso=settings.iso, shutter_s=settings.shutter_s, kind="png", **more)
        frame = dry_run(body, lambda _: PROFILE, self.dry_room, request=wanted)
        return np.asarray(Image.open(io.BytesIO(frame.data))).astype(float), frame.figures

    def test_at_its_own_settings_it_is_what_it_was(self):
        for scene_id, settings in (DAY, EVENING):
            bench = BenchPhone(PROFILE, MAIN, MAIN.mode(None), seed=3)
            take = bench.take(shipped_scene(scene_id), settings, "both", taken_at=TAKEN_AT)
            frame = bench.expose(shipped_scene(scene_id), settings)
            looks = {"processed": frame.developed(), "raw": frame.neutral()}
            for name, data, most in (("a.dng", take.dng, 2.0), ("a.jpg", take.jpeg, 3.5)):
                body = self.taken_in(data, name)[0]
                for look, wanted in looks.items():
                    if name == "a.jpg" and look == "raw":
                        continue  # what a processed file was before is not known
                    found, figures = self.predicted(body, settings, rendition=look)
                    with self.subTest(scene_id, file=name, rendition=look):
                        self.assertEqual(found.shape, wanted.shape)
                        self.assertLess(np.abs(found - wanted).mean(), most)
                        ratio = [
                            np.median(srgb_to_linear(codes[..., channel] / 255))
                            for codes in (found, wanted)
                            for channel in range(3)
                        ]
                        stops = np.log2(np.array(ratio[:3]) / ratio[3:])
                        np.testing.assert_allclose(stops, 0, atol=0.03 if most == 2.0 else 0.25)
                        self.assertFalse(figures.from_scene)

    def test_raw_keeps_what_lies_over_white_for_darker_settings(self):
        scene_id, settings = DAY
        brighter = CaptureSettings(50, 1 / 1600, 6.0, support="tripod")
        bench = BenchPhone(PROFILE, MAIN, MAIN.mode(None), seed=3)
        take = bench.take(shipped_scene(scene_id), brighter, "both", taken_at=TAKEN_AT)
        truth = bench.expose(shipped_scene(scene_id), settings).developed().astype(float)
        off, lost = {}, {}
        for name, data in (("a.dng", take.dng), ("a.jpg", take.jpeg)):
            found, figures = self.predicted(self.taken_in(data, name)[0], settings)
            light = truth.max(axis=2) > 200
            off[name] = np.abs(found - truth)[light].mean()
            lost[name] = figures.source_lost_share
        self.assertLess(off["a.dng"], 0.5 * off["a.jpg"])
        self.assertLess(lost["a.dng"], 0.5 * lost["a.jpg"])

    def test_the_coarse_look_is_the_full_one_made_small(self):
        bench = BenchPhone(PROFILE, MAIN, MAIN.mode(None), seed=3)
        take = bench.take(shipped_scene(DAY[0]), DAY[1], "both", taken_at=TAKEN_AT)
        for name, data in (("a.dng", take.dng), ("a.jpg", take.jpeg)):
            body = self.taken_in(data, name)[0]
            full, reported = self.predicted(body, DAY[1])
            coarse, same = self.predicted(body, DAY[1], quality="coarse")
            self.assertEqual(coarse.shape, (240, 320, 3))
            means = full.reshape(240, 3, 320, 3, 3).mean(axis=(1, 3))
            self.assertLess(np.abs(coarse - means).mean(), 6)
            self.assertAlmostEqual(reported.source_lost_share, same.source_lost_share, delta=0.01)

    def test_its_phones_meter_offset_counts_as_in_its_readings(self):
        bench = BenchPhone(PROFILE, MAIN, MAIN.mode(None), seed=3)
        take = bench.take(shipped_scene(DAY[0]), DAY[1], "raw", taken_at=TAKEN_AT)
        body = self.taken_in(take.dng, "a.dng")[0]
        generous = PROFILE.model_copy(update={"meter_offset_stops": 1.0})
        means = []
        for profile in (PROFILE, generous):
            wanted = FrameRequest(iso=50, shutter_s=1 / 16000, kind="png", rendition="raw")
            data = dry_run(body, lambda _, p=profile: p, self.dry_room, request=wanted).data
            means.append(np.median(srgb_to_linear(np.asarray(Image.open(io.BytesIO(data))) / 255)))
        self.assertAlmostEqual(np.log2(means[1] / means[0]), 1.0, delta=0.05)


class RawAsLight(unittest.TestCase):
    def light(self, data, side=96):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.dng"
            path.write_bytes(data)
            with open_picture(path, "a.dng") as picture:
                return picture.light(side)

    def test_a_neutral_is_as_light_as_metering_says(self):
        for side, shape in ((96, (64, 96)), (24, (16, 24))):
            light = self.light(dng(), side)
            self.assertEqual(light.colour.shape, (*shape, 3))
            # 718 DN over black of 4031, mid at 0.18.
            level = light.colour[4:-4, 4:-4] @ [0.2126, 0.7152, 0.0722]
            np.testing.assert_allclose(level, 718 / 4031 / 0.18, rtol=0.02)
            self.assertFalse(light.is_balanced or light.lost.any())

    def test_what_clipped_is_lost_and_lies_where_people_see_it(self):
        data = mosaic()
        data[:16] = 4095
        light = self.light(dng(data))
        self.assertAlmostEqual(light.lost.mean(), 0.25, places=2)
        self.assertTrue(light.lost[:15].all())
        turned = self.light(dng(data, t274=("H", 1, 6)))
        self.assertEqual(turned.lost.shape, (96, 64))
        # Turned a quarter to the right, its upper edge is on the right.
        self.assertTrue(turned.lost[:, -15:].all())
        self.assertFalse(turned.lost[:, :40].any())
