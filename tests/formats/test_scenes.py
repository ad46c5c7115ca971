"""Scenes that ship: their size, their descriptions against their light, and false files."""

import json
import tempfile
import unittest
from importlib.resources import files
from pathlib import Path

import numpy as np
import tifffile
from pydantic import ValidationError

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.light.meter import Spot, disc_box, disc_mask
from oxlen.core.simulate.capture import scene_luminance, seen_through
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import SceneFile, read_scene, scene_ids, scene_truth, shipped_scene

FOLDER = Path(str(files("oxlen") / "data" / "scenes"))
LUMA = np.array([0.2126, 0.7152, 0.0722])
# Luminance (cd/m²) that a subject of each place has by day, lamp or night, within a stop or two.
SUBJECT_CD_M2 = {
    "white-hull-sun": (4000, 20000),
    "yard-overcast": (30, 300),
    "tarred-shed": (0.5, 60),
    "sluice": (50, 1500),
    "lantern-evening": (0.2, 10),
    "varnish-tins": (50, 2000),
    "bronze-bench": (5, 500),
}


def under(region, plane):
    """Values of a plane (h, w, ...) under a named disc."""
    height, width = plane.shape[:2]
    spot = Spot(region.name, region.x, region.y, r=region.r)
    left, top, right, bottom = disc_box(spot, width, height)
    return plane[top:bottom, left:right][disc_mask(spot, width, height)]


class Shipped(unittest.TestCase):
    def test_they_are_small_and_say_how_they_were_made(self):
        total = sum(path.stat().st_size for path in FOLDER.iterdir())
        self.assertLess(total, 40e6)
        manifest = json.loads((FOLDER / "manifest.json").read_text())
        self.assertEqual(sorted(manifest), scene_ids())
        for line in manifest.values():
            self.assertGreaterEqual(line["samples"], 49)
            self.assertGreater(line["scale"], 0)

    def test_subjects_have_the_light_of_their_situation(self):
        for scene_id, (low, high) in SUBJECT_CD_M2.items():
            truth, light = scene_truth(scene_id), scene_luminance(shipped_scene(scene_id))
            tones = truth.acceptance.tones
            wanted = next(t for t in tones if t.role in ("subject", "neutral"))
            with self.subTest(scene_id, spot=wanted.name):
                self.assertTrue(low < float(under(wanted, light).mean()) < high)

    def test_each_lamp_says_its_luminance_colour_and_rendering(self):
        for scene_id in scene_ids():
            scene = shipped_scene(scene_id)
            sky = (scene.radiance @ LUMA)[scene.objects == 255]
            for lamp in scene_truth(scene_id).lamps:
                with self.subTest(scene_id, lamp=lamp.name):
                    self.assertGreater(lamp.luminance_cd_m2, 0)
                    self.assertTrue(1000 < lamp.cct_k < 20_000 and abs(lamp.duv) < 0.02)
                    self.assertTrue(80 <= lamp.cri <= 100)
                    if lamp.name in ("cloud", "sky glow", "blue hour", "window"):
                        self.assertAlmostEqual(lamp.luminance_cd_m2 / sky.mean(), 1, delta=0.05)

    def test_neutral_patches_are_even_and_share_one_colour_of_light(self):
        for scene_id in scene_ids():
            truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
            for patch in truth.neutral:
                colour = under(patch, scene.radiance).astype(float)
                chroma = colour / (colour @ LUMA)[:, None]
                with self.subTest(scene_id, patch=patch.name):
                    self.assertLess(float(chroma.std(axis=0).max()), 0.12)

    def test_what_must_be_sharp_is_somewhere_and_what_moves_is_there(self):
        for scene_id in scene_ids():
            truth, scene = scene_truth(scene_id), shipped_scene(scene_id)
            movers = {mover.name for mover in truth.movers}
            wanted = truth.acceptance
            with self.subTest(scene_id):
                for region in wanted.sharp:
                    away = under(region, scene.distance_m)
                    self.assertTrue(0.1 < float(np.median(away)) <= 60000)
                self.assertLessEqual({f.mover for f in wanted.freeze}, movers)
                self.assertLessEqual({s.mover for s in wanted.streak}, movers)
                for layer in scene.layers:
                    self.assertTrue(0 <= layer.left < 960 and 0 <= layer.top < 720)
                    self.assertGreater(float(layer.cover.max()), 0.95)
                    self.assertTrue(np.isfinite(layer.colour).all())

    def test_one_lens_of_the_phone_can_photograph_each(self):
        phone = shipped_profile("wherry-3").to_phone()
        for scene_id in scene_ids():
            scene = shipped_scene(scene_id)
            lens = phone.lens("main" if scene.hfov_deg > 40 else "long")
            framed = seen_through(scene, lens, lens.modes[0])
            with self.subTest(scene_id):
                self.assertGreater(framed.width_px, 900)
        with self.assertRaisesRegex(BadInput, "Use a longer lens"):
            wide = phone.lens("main")
            seen_through(shipped_scene("dinghy-passing"), wide, wide.modes[0])

    def test_the_sky_over_the_yard_goes_round_without_a_seam(self):
        sky = scene_luminance(shipped_scene("yard-overcast"))[12:90]
        # No column of cloud steps against its neighbour more than noise and texture do.
        steps = np.abs(np.diff(np.log2(sky.mean(axis=0))))
        mast = np.convolve(steps > 0.2, np.ones(9), "same") > 0
        self.assertLess(float(steps[~mast].max()), 0.05)


class Reading(unittest.TestCase):
    def truth(self, **changed):
        body = {
            "format": "oxlen-scene/2",
            "id": "small",
            "name": "A small one",
            "situation": "test",
            "width": 8,
            "height": 6,
            "hfov_deg": 60,
            "objects": {"wall": 1},
            "layers": [],
            "neutral": [],
            "lamps": [],
            "movers": [],
            "acceptance": {"tones": []},
        }
        return SceneFile.model_validate({**body, **changed})

    def written(self, pages, shape=(6, 8)):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "small.tif"
        with tifffile.TiffWriter(path) as file:
            file.write(np.ones((*shape, 3), np.float16), photometric="rgb")
            file.write(np.full(shape, 3, np.float16))
            file.write(np.ones(shape, np.uint8))
            for _ in range(pages - 3):
                layer = np.ones((2, 3, 4), np.float16)
                file.write(layer, photometric="rgb", extrasamples=["unassalpha"])
        return path

    def test_a_scene_is_read_with_its_layers_and_lamps(self):
        lamps = [
            {
                "name": "lantern",
                "cct_k": 2000,
                "swing": {
                    "string_m": 0.2,
                    "amplitude_deg": 5,
                    "distance_m": 4,
                    "layers": ["lantern"],
                },
            },
            {
                "name": "rowed",
                "cct_k": 2400,
                "carried": {
                    "mover": "boat",
                    "x": 0.5,
                    "y": 0.25,
                    "diameter_m": 0.1,
                    "distance_m": 9,
                    "radiance_cd_m2": [3, 2, 1],
                    "mirror_y": 0.75,
                },
            },
        ]
        layer = {"name": "lantern", "left": 2, "top": 1, "distance_m": 4.0}
        scene = read_scene(self.written(4), self.truth(lamps=lamps, layers=[layer]))
        self.assertEqual(scene.layers[0].cover.shape, (2, 3))
        self.assertEqual(scene.lamps[0].swing.layers, ("lantern",))
        carried = scene.lamps[1].carried
        self.assertEqual((carried.x_px, carried.y_px, carried.mirror_y_px), (4.0, 1.5, 4.5))
        np.testing.assert_array_equal(scene.mask_of(("wall", "nothing")), 1)

    def test_a_tiff_that_does_not_hold_what_is_said_is_refused(self):
        layer = {"name": "x", "left": 0, "top": 0, "distance_m": 1.0}
        rows = ((3, {"layers": [layer]}), (4, {}), (3, {"width": 9}))
        for pages, changed in rows:
            with (
                self.subTest(pages=pages, changed=changed),
                self.assertRaisesRegex(BadInput, "does not match"),
            ):
                read_scene(self.written(pages), self.truth(**changed))

    def test_what_cannot_be_is_refused_by_name(self):
        rows = {
            "string_m": {"string_m": 0, "amplitude_deg": 5, "distance_m": 4, "layers": []},
            "amplitude_deg": {"string_m": 1, "amplitude_deg": 80, "distance_m": 4, "layers": []},
        }
        for name, swing in rows.items():
            with self.subTest(name), self.assertRaisesRegex(ValidationError, name):
                self.truth(lamps=[{"name": "a", "cct_k": 2000, "swing": swing}])
        with self.assertRaisesRegex(ValidationError, "format"):
            self.truth(format="oxlen-scene/1")
        with self.assertRaisesRegex(NotFound, "Use one of bronze-bench"):
            scene_truth("nowhere")


if __name__ == "__main__":
    unittest.main()
