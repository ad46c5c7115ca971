"""`oxlen stack` as a script sees it."""

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
import tifffile

from tests.cli.test_commands import oxlen
from tests.stacking.frames import kept, linear_of, shot, still


class Stack(unittest.TestCase):
    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        light = still()
        frames = [(f"f{n}.jpg", shot(light, n)) for n in range(4)]
        frames.append(("f4.jpg", shot(light, 4, iso=200)))
        self.files = [path for path, _ in kept(self.folder, frames)]

    def test_figures_come_as_json_and_the_picture_as_a_file(self):
        out = self.folder / "one.tif"
        done = oxlen("stack", *self.files, "--combine", "median", "--out", out)
        self.assertEqual(done.returncode, 0, done.stderr)
        found = json.loads(done.stdout)
        self.assertEqual(
            set(found),
            {
                *("frames", "left_out", "light_s", "time_s", "noise_gain_stops"),
                *("virtual_nd_stops", "width", "height", "land_moved_px", "land_sky_share"),
            },
        )
        self.assertEqual((found["frames"], found["light_s"], found["time_s"]), (4, 2.0, 3.5))
        self.assertEqual(found["left_out"][0]["name"], "f4.jpg")
        self.assertEqual(tifffile.imread(out).shape, (240, 320, 3))

    def test_land_is_taken_from_its_own_frame_under_the_line(self):
        out, dusk = self.folder / "two.tif", self.folder / "dusk.jpg"
        dusk.write_bytes(shot(np.full((240, 320), 0.1), 40, iso=50))
        line = ("--horizon", "0,0.5", "1,0.5")
        own = ("--land", dusk, "--land-lift", "1", "--out", out)
        done = oxlen("stack", *self.files[:4], *line, *own)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(json.loads(done.stdout)["frames"], 4)
        below = linear_of(tifffile.imread(out))[160:]
        np.testing.assert_allclose(below, 0.2, atol=0.004)
        without = oxlen("stack", *self.files[:4], *own)
        self.assertEqual(without.returncode, 2)
        self.assertIn("horizon line", without.stderr)

    def test_what_cannot_be_is_a_sentence_and_code_2(self):
        for more, words in (
            (("--combine", "blend"), "sigma-clip"),
            (("--align", "edges"), "features"),
            (("--out", self.folder / "one.png"), ".tif"),
        ):
            done = oxlen("stack", *self.files, *more)
            with self.subTest(more):
                self.assertEqual((done.returncode, done.stdout), (2, ""))
                self.assertIn(words, done.stderr)
