"""The bench phone: its files agree with the light of its scenes; auto fails as real ones do."""

import io
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image
from PIL.ExifTags import IFD, Base

from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.light.meter import Spot, disc_box, disc_mask
from oxlen.core.light.tone import LUMA
from oxlen.core.review.acceptance import JudgedTake, failings
from oxlen.core.simulate.automatic import auto_focus_m
from oxlen.core.simulate.capture import seen_through
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.moving import moved
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import scene_ids, scene_truth, shipped_scene
from oxlen.pictures.reading import read_picture

PROFILE = shipped_profile("wherry-3")
PHONE = PROFILE.to_phone()
TAKEN_AT = "2026:10:03 08:12:00"
PLACES = [(x, y) for x in (0.15, 0.35, 0.5, 0.65, 0.85) for y in (0.12, 0.3, 0.5, 0.7, 0.9)]


def flat(ev100, tint=(1.0, 1.0, 1.0), size=(240, 320)):
    """A scene of one luminance."""
    level = float(luminance_cd_m2(ev100)) * np.asarray(tint, dtype=np.float32)
    radiance = np.broadcast_to(level, (*size, 3)).astype(np.float32)
    distance = np.full(size, 5.0, np.float32)
    return Scene(
        "flat",
        "a flat",
        radiance,
        distance_m=distance,
        objects=np.zeros(size, np.uint8),
        hfov_deg=71.57,
    )


def bench(lens="main", seed=5):
    """The Wherry on one of its lenses."""
    return BenchPhone(PROFILE, PHONE.lens(lens), PHONE.lens(lens).modes[0], seed=seed)


class Files(unittest.TestCase):
    def reading(self, data, spots=()):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "take"
            path.write_bytes(data)
            return read_picture(path, spots=spots)

    def frame_ev(self, data):
        reading = self.reading(data)
        return reading.ev100_of(reading.frame.mean_stops)

    def test_light_reads_back_from_both_kinds_of_file(self):
        for ev, iso, shutter_s in ((12, 50, 1 / 632), (9, 400, 1 / 632), (4, 1600, 1 / 79)):
            take = bench().take(
                flat(ev),
                CaptureSettings(iso, shutter_s, 5.0, support="tripod"),
                "both",
                taken_at=TAKEN_AT,
            )
            with self.subTest(ev):
                self.assertAlmostEqual(self.frame_ev(take.jpeg), ev, delta=0.06)
                self.assertAlmostEqual(self.frame_ev(take.dng), ev, delta=0.03)

    def light_of_take(self, scene, settings, phone):
        """Luminance as it was while the shutter was open: water and lanterns where they were."""
        framed = seen_through(scene, phone.lens, phone.mode)
        light = moved(
            framed,
            settings.shutter_s,
            readout_s=phone.mode.readout_s,
            pan_with=None,
            random=SeededRandom(phone.seed),
        )
        return light @ LUMA

    def test_raw_meters_the_scenes_within_a_tenth_of_a_stop(self):
        errors = {"raw": [], "processed": []}
        for scene_id in scene_ids():
            truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
            if any(lamp.pulse_hz for lamp in truth.lamps):
                continue  # bands are light that really was there
            phone = bench("main" if truth.hfov_deg > 40 else "long")
            settings = phone.auto_settings(scene, "tripod")
            take = phone.take(scene, settings, "both", taken_at=TAKEN_AT)
            light = self.light_of_take(scene, settings, phone)
            for kind, data in (("raw", take.dng), ("processed", take.jpeg)):
                spots = [Spot(str(i), x, y, r=0.03) for i, (x, y) in enumerate(PLACES)]
                for read in self.reading(data, spots).spots:
                    left, top, right, bottom = disc_box(read.spot, 960, 720)
                    disc = light[top:bottom, left:right][disc_mask(read.spot, 960, 720)]
                    usable = read.tone.state == "ok" and -5 < read.tone.stops_from_mid < 2
                    if usable and read.ev100 is not None:
                        errors[kind].append(read.ev100 - np.log2(disc.mean() / 0.125))
        raw, processed = (np.array(errors[kind]) for kind in ("raw", "processed"))
        self.assertGreater(raw.size, 80)
        self.assertLess(np.quantile(np.abs(raw), 0.95), 0.1)
        self.assertLess(abs(raw.mean()), 0.05)
        # Tone mapping shifts processed readings: by less than the ± that is shown with them.
        self.assertLess(np.quantile(np.abs(processed), 0.9), 0.5)

    def test_the_file_states_the_exposure(self):
        take = bench().take(flat(10), CaptureSettings(64, 1 / 320, 5.0), "both", taken_at=TAKEN_AT)
        for data in (take.jpeg, take.dng):
            exposure = self.reading(data).exposure
            self.assertEqual((exposure.iso, exposure.model), (64, "Wherry 3"))
            self.assertAlmostEqual(exposure.shutter_s, 1 / 320)
            self.assertEqual(exposure.focal35_mm, 24)
            self.assertEqual(exposure.taken_at, "2026-10-03T08:12:00")
        self.assertAlmostEqual(self.reading(take.jpeg).exposure.brightness_ev100, 10, places=2)

    def test_the_file_says_whether_white_balance_was_dialled(self):
        for white_k, stated in ((None, 0), (3200.0, 1)):
            take = bench().take(
                flat(10), CaptureSettings(64, 1 / 320, white_k=white_k), "both", taken_at=TAKEN_AT
            )
            exif = Image.open(io.BytesIO(take.jpeg)).getexif().get_ifd(IFD.Exif)
            with tifffile.TiffFile(io.BytesIO(take.dng)) as dng:
                raw = dng.pages[0].tags[Base.WhiteBalance].value
            self.assertEqual((exif[Base.WhiteBalance], raw), (stated, stated))

    def test_the_same_seed_takes_the_same_picture(self):
        shot, same, other = (
            bench(seed=seed)
            .take(flat(3), CaptureSettings(800, 0.05), "processed", taken_at=TAKEN_AT)
            .jpeg
            for seed in (1, 1, 2)
        )
        self.assertEqual(shot, same)
        self.assertNotEqual(shot, other)


class Auto(unittest.TestCase):
    def test_it_centres_the_frame_and_raises_iso_once_hands_shake(self):
        for ev in (14, 8, 3, -1):
            settings = bench().auto_settings(flat(ev))
            with self.subTest(ev):
                self.assertAlmostEqual(settings.ev100_set(1.8), ev, delta=0.25)
                self.assertIn(settings.iso, PHONE.lens("main").modes[0].auto.iso)
        self.assertEqual(bench().auto_settings(flat(10)).iso, 50)
        self.assertGreater(bench().auto_settings(flat(-1)).iso, 800)

    def test_it_dulls_white_and_greys_out_night(self):
        rows = [
            ("varnish-tins", "long", "white sweep"),
            ("lantern-evening", "main", "blue hour sky"),
        ]
        for scene_id, lens, name in rows:
            truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
            phone = bench(lens)
            taken = JudgedTake(scene, phone.expose(scene, phone.auto_settings(scene, "tripod")), 5)
            with self.subTest(scene_id):
                words = [f.words for f in failings(truth.acceptance, taken) if f.demand == "tone"]
                self.assertTrue(any(name in w for w in words) or scene_id == "lantern-evening")

    def test_focus_is_grabbed_by_contrast_and_set_by_hand(self):
        scene = flat(8, size=(720, 960))
        grain = scene.radiance.copy()
        grain[:300, 500:] *= 1 + 0.8 * np.random.default_rng(1).random((300, 460, 1))
        far = scene.distance_m.copy()
        far[:300, 500:] = 40.0
        busy = replace(scene, radiance=grain.astype(np.float32), distance_m=far)
        self.assertEqual(auto_focus_m(busy), 40.0)
        lens = PHONE.lens("main")
        self.assertEqual(focus_on_m(busy, lens, lens.modes[0], x=0.2, y=0.8), 5.0)
        shot = bench().settings_for(busy, Shot(100, 0.01, 5.0))
        self.assertEqual(shot.focused_m, 5.0)


class Acceptance(unittest.TestCase):
    def judged(self, scene_id, settings, lens="main", **more):
        scene = varied(shipped_scene(scene_id), **more)
        taken = JudgedTake(scene, bench(lens).expose(scene, settings), 5)
        return {f.demand for f in failings(scene_truth(scene_id).acceptance, taken)}

    def test_each_demand_can_fail(self):
        rows = [
            ("dinghy-passing", "long", CaptureSettings(50, 1 / 100, 15.0), "motion"),
            ("dinghy-passing", "long", CaptureSettings(3200, 1 / 100, 15.0), "clipping"),
            ("bronze-bench", "long", CaptureSettings(50, 1 / 1000, 1.2, support="tripod"), "bands"),
            ("bronze-bench", "long", CaptureSettings(50, 1 / 60, 0.3, support="tripod"), "focus"),
            ("white-hull-sun", "main", CaptureSettings(50, 2.0, 6.0), "hand"),
            ("yard-overcast", "main", CaptureSettings(50, 1 / 8000, 6.0), "tone"),
            ("sluice", "main", CaptureSettings(50, 1 / 500, 4.0, support="tripod"), "streak"),
            (
                "stars-over-slip",
                "main",
                CaptureSettings(800, 30.0, 5e4, support="tripod"),
                "trails",
            ),
        ]
        for scene_id, lens, settings, demand in rows:
            with self.subTest(scene_id, demand=demand):
                self.assertIn(demand, self.judged(scene_id, settings, lens))

    def test_a_faster_mover_fails_where_a_slower_one_passes(self):
        settings = CaptureSettings(50, 1 / 250, 15.0, support="tripod")
        slow, fast = (
            "motion" in self.judged("dinghy-passing", settings, "long", speed=speed)
            for speed in (0.5, 4.0)
        )
        self.assertEqual((slow, fast), (False, True))


class Scenes(unittest.TestCase):
    def test_every_scene_says_what_is_true_of_it(self):
        self.assertGreaterEqual(len(scene_ids()), 8)
        for scene_id in scene_ids():
            truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
            with self.subTest(scene_id):
                self.assertEqual(scene.radiance.shape, (720, 960, 3))
                self.assertTrue(np.isfinite(scene.radiance).all())
                self.assertGreaterEqual(float(scene.radiance.min()), 0)
                self.assertTrue(truth.acceptance.tones)
                self.assertTrue(truth.lamps)
                known = set(scene.object_ids)
                self.assertTrue(all(set(m.objects) <= known for m in scene.movers))
                shares = [scene.mask_of((name,)).mean() for name in known]
                self.assertGreater(sum(share > 0 for share in shares), 3)
