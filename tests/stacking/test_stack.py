"""Stacking: the rules, what is left out, and going on after a crash."""

import subprocess
import sys
import tempfile
import unittest
from dataclasses import fields
from pathlib import Path
from unittest.mock import patch

import cv2
import numpy as np
import tifffile

from oxlen.core.errors import BadInput
from oxlen.core.sensor.noise import snr
from oxlen.pictures.opening import open_picture
from oxlen.stacking.ask import StackAsk, Stopped
from oxlen.stacking.stack import stack_files
from oxlen.stacking.work import Reader
from tests.counts import seeds
from tests.pictures.making import dng
from tests.stacking.frames import codes_of, kept, linear_of, png, shot, still

ASKED = {field.name for field in fields(StackAsk)}


class InFolder(unittest.TestCase):
    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        (self.folder / "work").mkdir()
        self.out = self.folder / "out.tif"

    def stacked(self, files, combine="mean", align="none", **more):
        own = {name: more.pop(name) for name in tuple(more) if name in ASKED}
        asked = StackAsk(combine, align, **own)
        more.setdefault("out", self.out)
        return stack_files(files, asked, folder=self.folder / "work", **more)

    def files(self, frames, ending="jpg"):
        return kept(self.folder, [(f"f{n:02d}.{ending}", data) for n, data in enumerate(frames)])

    def result(self):
        return tifffile.imread(self.out)


class Rules(InFolder):
    def test_hot_pixels_of_the_dark_frame_are_gone_and_nothing_else_is(self):
        draw = np.random.default_rng(8)
        places = draw.integers(6, 54, (25, 2))
        base = codes_of(np.full((60, 60), 0.2))
        base[20:40, 20:24] = 200  # an edge that must stay
        frames = []
        for _ in range(4):
            copy = base.copy()
            copy[tuple(places.T)] = 255
            frames.append(png(copy))
        dark = np.zeros((60, 60, 3), dtype=np.uint8)
        dark[tuple(places.T)] = (220, 180, 200)
        files = [*self.files(frames, "png"), *kept(self.folder, [("dark.png", png(dark))])]
        done = self.stacked(files, "mean", dark="dark.png")
        self.assertEqual(done.frames, 4)
        found = linear_of(self.result())
        clear = [tuple(p) for p in places if not 16 <= p[1] <= 27]
        for row, column in clear:
            self.assertAlmostEqual(found[row, column, 1], 0.2, delta=0.01)
        hot = np.zeros((60, 60), dtype=bool)
        hot[tuple(places.T)] = True
        np.testing.assert_allclose(found[~hot], linear_of(base)[~hot], atol=1e-3)
        with self.assertRaisesRegex(BadInput, "no frame named"):
            self.stacked(files, "mean", dark="other.png")

    def test_each_rule_gives_what_its_definition_says(self):
        draw = np.random.default_rng(5)
        codes = draw.integers(0, 256, (5, 50, 70, 3), dtype=np.uint8)
        files = self.files([png(code) for code in codes], "png")
        light = linear_of(codes)
        wanted = {
            "mean": light.mean(axis=0),
            "add": np.minimum(1, light.sum(axis=0)),
            "median": np.median(light, axis=0),
            "lighten": light.max(axis=0),
            "darken": light.min(axis=0),
        }
        for how, linear in wanted.items():
            with self.subTest(how):
                done = self.stacked(files, how, mixed=True)
                self.assertEqual((done.frames, done.width, done.height), (5, 70, 50))
                np.testing.assert_allclose(linear_of(self.result()), linear, atol=1e-4)
        for how, picked in (("lighten", codes.max(axis=0)), ("darken", codes.min(axis=0))):
            self.stacked(files, how, mixed=True)
            np.testing.assert_array_equal(np.rint(self.result() / 257), picked)

    def test_what_is_in_one_frame_of_twenty_is_gone(self):
        draw, light = np.random.default_rng(2), still()
        frames = [light * draw.normal(1, 0.02, light.shape) for _ in range(20)]
        truth = codes_of(np.mean(frames, axis=0)).astype(int)
        lamp, boat = frames[4].copy(), frames[11].copy()
        cv2.circle(lamp, (160, 120), 18, 1.0, -1)
        boat[150:180, 60:130] = 0.9
        frames[4], frames[11] = lamp, boat
        files = self.files([png(codes_of(frame)) for frame in frames], "png")
        for how, most in (("sigma-clip", 1), ("median", 2)):
            done = self.stacked(files, how)
            self.assertEqual(done.frames, 20)
            off = np.abs(np.rint(self.result() / 257) - truth)
            where = np.s_[100:185, 55:180]
            self.assertLessEqual(off[where].max(), most, how)
        # An average would show both, so it names the lamp and leaves it out.
        done = self.stacked(files)
        self.assertEqual([name.name for name in done.left_out], ["f04.png", "f11.png"])
        self.assertIn("lamp", done.left_out[0].why)

    def test_noise_falls_as_predicted_and_what_each_pixel_keeps_does_not(self):
        draw = np.random.default_rng(9)
        electrons, read_e, prnu, frames = 400.0, 6.0, 0.02, 16
        pattern = draw.normal(1, prnu, (240, 320))
        shots = []
        for _ in range(frames):
            counted = draw.poisson(electrons * pattern) + draw.normal(0, read_e, pattern.shape)
            shots.append(dng(np.rint(64 + 2 * counted).astype(np.uint16)))
        self.out = self.folder / "out.dng"
        done = self.stacked(self.files(shots, "dng"))
        self.assertEqual(done.gain.noise_gain_stops, 2.0)
        with open_picture(self.out, "out") as picture:
            mosaic = picture.source.mosaic
            black, white = picture.source.levels
            values = (mosaic - black[1]) / (white - black[1]) * (4095 - 64) / 2
            self.assertEqual(picture.exposure.shutter_s, 0.01)
        found = values.mean() / values.std()
        expected = float(snr(electrons, read_e, prnu, frames=frames))
        self.assertAlmostEqual(found / expected, 1.0, delta=0.05)


class LeftOutFrames(InFolder):
    def test_each_that_does_not_fit_is_named_with_its_reason(self):
        light = still()
        frames = [shot(light, number) for number in range(6)]
        frames += [
            shot(light, 6, iso=100),
            shot(np.roll(light, (9, 14), axis=(0, 1)), 7),
            shot(light * 1.6, 8),
            shot(still((120, 160)), 9),
            b"no picture",
        ]
        done = self.stacked(self.files(frames))
        why = {frame.name: frame.why for frame in done.left_out}
        self.assertEqual(done.frames, 6)
        for name, words in (
            ("f06.jpg", "ISO 100"),
            ("f07.jpg", "tripod moved"),
            ("f08.jpg", "lighter than the others"),
            ("f09.jpg", "160 × 120 pixels"),
            ("f10.jpg", "picture"),
        ):
            self.assertIn(words, why[name])
        self.assertEqual((done.gain.light_s, done.gain.time_s), (3.0, 5.5))

    def test_a_plain_horizon_is_not_taken_for_a_knocked_tripod(self):
        # Along the one edge of sea and sky grain alone seems to be here or there.
        sea = np.full((600, 800), 0.2)
        sea[400:] = 0.05
        draw = np.random.default_rng(12)
        frames = [png(codes_of(sea * draw.normal(1, 0.05, sea.shape))) for _ in range(6)]
        done = self.stacked(self.files(frames, "png"))
        self.assertEqual((done.frames, done.left_out), (6, ()))
        tipped = np.roll(sea, 14, axis=0) * draw.normal(1, 0.05, sea.shape)
        done = self.stacked(self.files([*frames, png(codes_of(tipped))], "png"))
        self.assertEqual([name.name for name in done.left_out], ["f06.png"])

    def test_where_many_frames_are_lit_otherwise_that_is_the_scene(self):
        draw, light = np.random.default_rng(6), still()
        frames = []
        for number in range(12):
            copy = light.copy()
            if number % 2:  # a white sail crosses
                copy[100:140, 20 + 20 * number : 60 + 20 * number] = 0.9
            frames.append(png(codes_of(copy * draw.normal(1, 0.02, light.shape))))
        for how in ("mean", "median"):
            done = self.stacked(self.files(frames, "png"), how)
            self.assertEqual((done.frames, done.left_out), (12, ()))

    def test_any_frames_may_be_bad_and_cost_themselves_alone(self):
        light, draw = still(), np.random.default_rng(17)
        bad = (
            shot(light * 1.6, 3),
            shot(light, 3)[:2500],
            shot(np.roll(light, (9, 14), axis=(0, 1)), 3),
            shot(light, 3, iso=100),
            b"no picture",
        )
        for number in seeds(12, 80):
            # The last frame is among the bad ones every other time, the first now and then.
            places = set(draw.choice(7, int(draw.integers(1, 3)), replace=False).tolist())
            places |= {7} if number % 2 else set()
            frames = [shot(light, n) for n in range(8)]
            for place in places:
                # Several that are lit otherwise would be the scene: one at most.
                kinds = bad if place == max(places) else bad[2:]
                frames[place] = kinds[int(draw.integers(len(kinds)))]
            for how in ("median", "sigma-clip", "mean"):
                with self.subTest(number=number, how=how, bad=sorted(places)):
                    done = self.stacked(self.files(frames), how)
                    left = {name.name for name in done.left_out}
                    self.assertEqual(left, {f"f{place:02d}.jpg" for place in places})
                    self.assertEqual(done.frames, 8 - len(places))
                    off = np.abs(linear_of(self.result())[..., 1] - light)
                    self.assertLess(float(np.median(off)), 0.004)

    def test_fewer_than_two_that_fit_are_refused(self):
        light = still()
        with self.assertRaisesRegex(BadInput, "Fewer than 2"):
            self.stacked(self.files([shot(light), b"no picture"]))
        with self.assertRaisesRegex(BadInput, "2 to 500"):
            self.stacked(self.files([shot(light)]))
        with self.assertRaisesRegex(BadInput, "DNG needs RAW"):
            self.stacked(self.files([shot(light)] * 3), out=self.folder / "o.dng")


class GoingOn(InFolder):
    def frames(self):
        draw, light = np.random.default_rng(4), still()
        noisy = [light * draw.normal(1, 0.05, light.shape) for _ in range(24)]
        return self.files([png(codes_of(frame)) for frame in noisy], "png")

    def test_stopped_and_asked_again_it_comes_to_the_same(self):
        files = self.frames()
        for how in ("mean", "median"):
            with self.subTest(how):
                first = []
                self.stacked(files, how, report=first.append)
                whole = self.out.read_bytes()
                if how == "median":  # what it takes on disk is shown before it is used
                    self.assertIn("GB of disk", first[0].doing)
                    self.assertTrue((self.folder / "work" / "preview.jpg").is_file())
                reported = []
                with self.assertRaises(Stopped):
                    self.stacked(
                        files,
                        how,
                        report=reported.append,
                        stopped=lambda reported=reported: len(reported) > 3,
                    )
                self.stacked(files, how)
                self.assertEqual(self.out.read_bytes(), whole)
                self.assertEqual(sorted((self.folder / "work").glob("*.npy")), [])

    def test_killed_halfway_it_goes_on_from_what_was_kept(self):
        files = self.frames()
        self.stacked(files)
        whole = self.out.read_bytes()
        script = (
            "import os, signal\n"
            "from pathlib import Path\n"
            "from oxlen.stacking import combining, stack\n"
            "from oxlen.stacking.ask import StackAsk\n"
            "combining.SAVED_EVERY_S = 0.0\n"
            "def told(progress):\n"
            "    if progress.share > 0.6: os.kill(os.getpid(), signal.SIGKILL)\n"
            f"folder = Path({str(self.folder)!r})\n"
            "files = [(one, one.name) for one in sorted(folder.glob('*.png'))]\n"
            "stack.stack_files(files, StackAsk(), folder=folder / 'work',\n"
            "                  out=folder / 'out.tif', report=told)\n"
        )
        ended = subprocess.run([sys.executable, "-c", script], check=False)
        self.assertEqual(ended.returncode, -9)
        read = []
        taken = Reader.read

        def noted(reader, frame):
            read.append(frame.name)
            return taken(reader, frame)

        with patch.object(Reader, "read", noted):
            self.stacked(files)
        self.assertEqual(self.out.read_bytes(), whole)
        self.assertLess(len(read), 20)
