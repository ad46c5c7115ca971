"""The command line as a script sees it: JSON on stdout, a sentence on stderr, exit code 2."""

import contextlib
import io
import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from types import SimpleNamespace
from unittest import mock

import jsonschema

from oxlen.cli.main import main
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.schemas import SCHEMAS
from tests.pictures.making import EV100, corners, dng, exif, jpeg
from tests.pictures.test_reading import code_ev

ROOT = Path(__file__).parents[2]
BRIEF = {
    "phone": "wherry-3",
    "lens": "main",
    "support": "handheld",
    "readings": [
        {"role": "subject", "ev100": 9.0, "place": 0},
        {"role": "keep-bright", "ev100": 11.8, "place": None},
    ],
    "strategy": {"iso": "floor", "iso_cap": 800, "exposure": "centre"},
}


def oxlen(*arguments, stdin="", data=None):
    """Run the command in this process; what it prints and ends with."""
    reported, refused = io.StringIO(), io.StringIO()
    given = SimpleNamespace(buffer=io.BytesIO(stdin.encode()))
    home = {"XDG_DATA_HOME": str(data or "/nonexistent")}
    with (
        mock.patch.dict(os.environ, home),
        mock.patch.object(sys, "stdin", given),
        contextlib.redirect_stdout(reported),
        contextlib.redirect_stderr(refused),
    ):
        try:
            code: int | str = main([str(argument) for argument in arguments])
        except SystemExit as ended:
            code = ended.code
    return SimpleNamespace(returncode=code, stdout=reported.getvalue(), stderr=refused.getvalue())


def process(*arguments, stdin=""):
    """Run the command as a script does."""
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "XDG_DATA_HOME": "/nonexistent"}
    return subprocess.run(
        [sys.executable, "-W", "error", "-m", "oxlen", *map(str, arguments)],
        input=stdin,
        capture_output=True,
        text=True,
        env=environment,
        timeout=60,
        check=False,
    )


class AsAProcess(unittest.TestCase):
    def test_exit_codes_and_streams(self):
        brief = json.dumps(BRIEF)
        done, here = process("plan", "-", stdin=brief), oxlen("plan", "-", stdin=brief)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertEqual(done.stdout, here.stdout)
        refused = process("plan", "-", stdin="{")
        self.assertEqual((refused.returncode, refused.stdout), (2, ""))
        self.assertRegex(refused.stderr, "^oxlen: The brief")

    def test_what_lies_in_the_current_folder_is_never_run(self):
        with tempfile.TemporaryDirectory() as folder:
            for name in ("numpy", "json", "oxlen", "PIL"):
                Path(folder, f"{name}.py").write_text("open('ran', 'w').close()\n", "utf-8")
            reported = subprocess.run(
                [ROOT / "oxlen", "compute", "--list"],
                cwd=folder,
                capture_output=True,
                text=True,
                timeout=120,
                check=False,
            )
            self.assertEqual((reported.returncode, Path(folder, "ran").exists()), (0, False))
            self.assertIn("handheld_limit", reported.stdout)


class Commands(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name, data):
        path = self.folder / name
        path.write_bytes(data if isinstance(data, bytes) else json.dumps(data).encode())
        return path

    def answer(self, *arguments, **how):
        run = oxlen(*arguments, **how)
        self.assertEqual(run.returncode, 0, run.stderr)
        return json.loads(run.stdout)

    def refusal(self, words, *arguments, **how):
        run = oxlen(*arguments, **how)
        self.assertEqual((run.returncode, run.stdout), (2, ""), run.stderr)
        self.assertRegex(run.stderr, words)
        self.assertNotIn("Traceback", run.stderr)


class Meter(Commands):
    def test_fields_of_a_processed_picture(self):
        path = self.file("slip.jpg", jpeg(corners(), exif(t274=1)))
        got = self.answer("meter", path, "--spot", "low=0.25,0.75,0.1", "--spot", "sky=0.75,0.25")
        self.assertEqual(
            got["file"],
            {
                "name": "slip.jpg",
                "format": "JPEG",
                "width": 80,
                "height": 60,
                "orientation": 1,
                "kind": "processed",
            },
        )
        self.assertEqual(got["camera"]["model"], "Wherry 3")
        self.assertAlmostEqual(got["settings"]["ev100"], EV100)
        low = got["spots"][0]
        self.assertAlmostEqual(low["ev100"], code_ev(140), delta=0.03)
        self.assertAlmostEqual(low["luminance_cd_m2"] / (0.125 * 2 ** low["ev100"]), 1)
        self.assertAlmostEqual(low["stops_from_mid"], low["ev100"] - EV100)
        self.assertEqual((low["state"], got["confidence"]), ("ok", "indicative"))
        frame = {
            "mean_ev100",
            "p01_ev100",
            "p50_ev100",
            "p99_ev100",
            "clipped_share",
            "blocked_share",
        }
        self.assertLessEqual(frame, set(got["frame"]))

    def test_without_exif_nulls_and_by_hand(self):
        path = self.file("plain.png", jpeg(corners(), b""))
        run = oxlen("meter", path)
        self.assertIn("Enter the exposure", run.stderr)
        self.assertEqual(json.loads(run.stdout)["settings"]["ev100"], None)
        got = self.answer("meter", path, "--iso", 100, "--shutter", 0.01, "--f-number", 1.8)
        self.assertAlmostEqual(got["settings"]["ev100"], EV100)

    def test_cut_raw(self):
        data = dng()
        run = oxlen("meter", self.file("cut.dng", data[: len(data) // 2]))
        self.assertEqual(run.returncode, 0)
        self.assertIsNone(json.loads(run.stdout)["frame"])
        self.assertIn("cut.dng: its pixels are cut", run.stderr)

    def test_refusals(self):
        good = self.file("good.jpg", jpeg(corners()))
        self.refusal("empty.jpg: the file is empty", "meter", self.file("empty.jpg", b""))
        self.refusal("No such file", "meter", self.folder / "gone.jpg")
        self.refusal("Is a directory|not a picture|directory", "meter", self.folder)
        self.refusal("NAME=X,Y", "meter", good, "--spot", "nowhere")
        self.refusal("x of spot a is 3", "meter", good, "--spot", "a=3,0.5")
        self.refusal("iso is -5", "meter", good, "--iso", "-5")


class Plan(Commands):
    def test_published_fields(self):
        got = self.answer("plan", self.file("brief.json", BRIEF))
        self.assertEqual(
            got["slip"]["order"], ["lens", "iso", "shutter_s", "white", "focus", "format"]
        )
        self.assertGreaterEqual(got["slip"]["ev100_set"], 11.8 - 2.5)
        spots = {spot["name"]: spot for spot in got["outcome"]}
        self.assertAlmostEqual(
            spots["Subject"]["lands_stops"],
            BRIEF["readings"][0]["ev100"] - got["slip"]["ev100_set"],
        )
        limits = {limit["id"]: limit for limit in got["limits"]}
        self.assertEqual(
            set(limits),
            {"device_shutter", "device_iso", "hold", "iso_cap", "highlights", "tone"}
            | {"subject_white"},
        )
        self.assertTrue(limits["highlights"]["binding"])
        self.assertAlmostEqual(limits["hold"]["max"], 1 / 3)
        self.assertEqual(got["window"]["iso_min"], 50)
        self.assertIsNone(got["conflict"])

    def test_conflict_and_stdin(self):
        brief = {**BRIEF, "readings": [{"role": "subject", "ev100": -5}]}
        got = self.answer("plan", "-", stdin=json.dumps(brief))
        self.assertEqual(got["conflict"]["between"], ["hold", "iso_cap"])
        self.assertGreater(got["conflict"]["short_by_stops"], 4)
        self.assertIsNone(got["window"])

    def test_a_whole_profile_in_the_brief(self):
        profile = shipped_profile("dabber").model_dump(mode="json")
        got = self.answer("plan", "-", stdin=json.dumps({**BRIEF, "phone": profile}))
        self.assertEqual(got["slip"]["iso"], 100)

    def test_schema_is_published_and_true(self):
        schema = self.answer("schema", "brief")
        jsonschema.validate(BRIEF, schema)
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate({**BRIEF, "mood": "blue"}, schema)
        jsonschema.validate(
            shipped_profile("wherry-3").model_dump(mode="json"),
            SCHEMAS["phone"].model_json_schema(),
        )

    def test_refusals(self):
        def brief(**changed):
            return json.dumps({**BRIEF, **changed})

        rows = [
            ("unknown field mood", brief(mood="blue")),
            (
                "unknown field readings.0.colour",
                brief(readings=[{"role": "subject", "ev100": 3, "colour": 1}]),
            ),
            ("readings.0.role", brief(readings=[{"role": "star", "ev100": 3}])),
            ("no phone named nobody", brief(phone="nobody")),
            ("no lens named keyhole", brief(lens="keyhole")),
            ("readings", brief(readings=[])),
            ("is not JSON", "{"),
            ("is not JSON", "[" * 100_000),
            (
                "names a ladder lost",
                brief(phone={**shipped_profile("dabber").model_dump(), "ladders": {}}).replace(
                    '"manual": "by-hand"', '"manual": "lost"'
                ),
            ),
            (
                "steps must increase",
                brief(phone=shipped_profile("dabber").model_dump()).replace(
                    "[100.0, 200.0", "[200.0, 100.0"
                ),
            ),
        ]
        for words, text in rows:
            with self.subTest(words):
                self.refusal(words, "plan", "-", stdin=text)


class Compute(Commands):
    def test_work_list_and_stdin(self):
        inputs = '{"f35": 24, "stab": 2}'
        self.assertAlmostEqual(self.answer("compute", "handheld_limit", inputs)["t_max"], 1 / 6)
        self.assertEqual(
            self.answer("compute", "handheld_limit", "-", stdin=inputs)["t_max"], 1 / 6
        )
        listed = self.answer("compute", "--list")
        self.assertTrue(all(entry["source"] and entry["formula"] for entry in listed))

    def test_refusals(self):
        self.refusal("no computation named warp", "compute", "warp", "{}")
        self.refusal("needs its inputs", "compute", "ev100")
        self.refusal("t must be a number", "compute", "ev100", '{"N":1,"t":"x","iso":1}')
        self.refusal("is not JSON", "compute", "ev100", "N=1")
        self.refusal("Give a computation", "compute")


class Archive(Commands):
    def test_nothing_to_back_up(self):
        self.refusal("There are no data", "backup", self.folder / "a.zip", "--data", self.folder)
        self.refusal("No such file", "restore", self.folder / "a.zip", "--data", self.folder)
        self.refusal(
            "not a whole Oxlen backup",
            "restore",
            self.file("w.zip", b"words"),
            "--data",
            self.folder,
        )
