"""`oxlen white`, `focus-ladder`, `sharp`, and `plan` with colour, focus and saving."""

import json
import tempfile
import unittest
from pathlib import Path

from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import scene_truth, shipped_scene
from tests.cli.test_commands import BRIEF, oxlen

PROFILE = shipped_profile("wherry-3")
SCENE = "bronze-bench"
CARD, CLEAT = "0.7812,0.4525,0.02", "0.4605,0.5453,0.06"


class Measuring(unittest.TestCase):
    folder: Path
    values: list[float]

    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        scene, lens = shipped_scene(SCENE), PROFILE.to_phone().lens("long")
        phone = BenchPhone(PROFILE, lens, lens.modes[0], seed=1)
        auto = phone.auto_settings(scene, "tripod")
        cls.values = [0.3, 0.45, 0.55, 0.62, 0.7, 0.8, 0.87]
        for value in cls.values:
            slip = Shot(auto.iso, auto.shutter_s, support="tripod", slider=value, white_k=5000.0)
            settings = phone.settings_for(scene, slip)
            take = phone.take(scene, settings, "both", taken_at="2026:10:03 12:00:00")
            (cls.folder / f"{value}.jpg").write_bytes(take.jpeg)
            (cls.folder / f"{value}.dng").write_bytes(take.dng)

    def answer(self, *arguments, **given):
        run = oxlen(*arguments, **given)
        self.assertEqual(run.returncode, 0, run.stderr)
        return json.loads(run.stdout)

    def test_white_of_a_card(self):
        panel = next(lamp for lamp in scene_truth(SCENE).lamps if lamp.name == "panel")
        for ending, delta in (("dng", 8), ("jpg", 20)):
            got = self.answer("white", self.folder / f"0.62.{ending}", "--spot", CARD)
            with self.subTest(ending):
                # The bench's boards warm the panel's own light by some mired.
                self.assertAlmostEqual(1e6 / got["cct_k"], 1e6 / panel.cct_k, delta=delta)
                self.assertEqual(len(got["xy"]), 2)
                self.assertGreater(got["plus_minus_mired"], 0)
        # The file says that 5000 K were dialled; a hand may say otherwise.
        self.assertEqual(got["taken_at_k"], 5000.0)
        other = self.answer("white", self.folder / "0.62.jpg", "--spot", CARD, "--dial", 6500)
        self.assertLess(1e6 / other["cct_k"], 1e6 / got["cct_k"] - 30)

    def test_a_ladder_finds_the_cleat_and_says_which_way_to_go_on(self):
        def ladder(values):
            files = [self.folder / f"{value}.jpg" for value in values]
            stated = ",".join(map(str, values))
            return self.answer("focus-ladder", *files, "--values", stated, "--spot", CLEAT)

        found = ladder(self.values)
        self.assertIsNone(found["go_on"])
        self.assertAlmostEqual(found["value"], 0.62, delta=0.04)
        self.assertEqual([sample["value"] for sample in found["samples"]], self.values)
        self.assertEqual(ladder(self.values[:3])["go_on"], "higher")
        self.assertEqual(ladder(list(reversed(self.values[4:])))["go_on"], "lower")

    def test_sharp_tells_a_spot_in_focus_from_one_that_is_not(self):
        in_focus = self.answer("sharp", self.folder / "0.62.jpg", "--spot", CLEAT)
        out = self.answer("sharp", self.folder / "0.3.jpg", "--spot", CLEAT)
        self.assertGreater(in_focus["spot"], 1.2 * out["spot"])
        self.assertIn("sharp", in_focus["words"])

    def test_what_cannot_be_measured_is_a_sentence(self):
        picture = self.folder / "0.62.jpg"
        rows = [
            (("white", picture, "--spot", "0.5"), "X,Y"),
            (("white", picture, "--spot", "a,b"), "not a number"),
            (("white", picture, "--spot", CARD, "--dial", 5), "between 1000"),
            (("focus-ladder", picture, "--values", "0.1", "--spot", CLEAT), "three"),
            (
                ("focus-ladder", picture, picture, picture, "--values", "0.1,0.2", "--spot", CLEAT),
                "2 values",
            ),
            (("sharp", self.folder / "none.jpg", "--spot", CLEAT), "none.jpg"),
        ]
        for arguments, words in rows:
            run = oxlen(*arguments)
            with self.subTest(words):
                self.assertEqual(run.returncode, 2)
                self.assertIn(words, run.stderr)


class Planned(unittest.TestCase):
    def plan(self, **asked):
        run = oxlen("plan", "-", stdin=json.dumps({**BRIEF, **asked}))
        self.assertEqual(run.returncode, 0, run.stderr)
        return json.loads(run.stdout)

    def test_colour_focus_and_saving_are_dialled_values(self):
        got = self.plan(
            light_colour={"lamps": [{"name": "the panel", "cct_k": 4310, "duv": 0.006}]},
            focus={"strategy": "by_hand", "distance_m": 0.3, "background_m": 2},
            saving={"strategy": "both", "pictures": 4},
        )
        slip = got["slip"]
        self.assertEqual((slip["white_k"], slip["save"], slip["focus_m"]), (4300, "both", 0.3))
        self.assertGreater(slip["tint"], 0)
        self.assertTrue(0.55 < slip["focus_slider"] < 0.65)
        lines = {setting["field"]: setting for setting in got["settings"]}
        self.assertEqual(lines["white"]["plus_minus_unit"], "mired")
        self.assertAlmostEqual(lines["format"]["figures"]["all_mb"], 4 * 28.7, places=3)
        self.assertLess(lines["focus"]["figures"]["near_m"], 0.3)

    def test_wrong_answers_are_named(self):
        rows = [
            ({"light_colour": {"usual": "disco"}}, "disco"),
            ({"focus": {"near_m": 2, "far_m": 1}}, "far_m"),
            ({"saving": {"fps": -1}}, "fps"),
            ({"focus": {"clip_on": {"name": "x", "dioptres": 500}}}, "dioptres"),
        ]
        for asked, words in rows:
            run = oxlen("plan", "-", stdin=json.dumps({**BRIEF, **asked}))
            with self.subTest(words):
                self.assertEqual(run.returncode, 2)
                self.assertIn(words, run.stderr)
