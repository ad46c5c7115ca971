"""`oxlen series check` as a script sees it."""

import json
import tempfile
import unittest
from pathlib import Path

from PIL import Image

from oxlen.devices.standins.bench_series import Bench, Mistake
from tests.cli.test_commands import oxlen

FIELDS = {
    *("file", "exposure_stops", "delta_e", "mired", "tint", "scale", "shift", "tilt_deg"),
    *("sharpness", "clipped_share", "background_stops", "verdict", "reasons", "why"),
}


class Series(unittest.TestCase):
    def test_every_file_is_compared_and_a_broken_one_named(self):
        with tempfile.TemporaryDirectory() as held:
            folder, bench = Path(held), Bench(7)
            for number, wrong in enumerate((Mistake(), Mistake(), Mistake(stops=-0.4))):
                picture = Image.fromarray(bench.take(number, wrong))
                picture.save(folder / f"tin-{number}.png")
            picture.resize((300, 400)).save(folder / "tin-3.jpg")
            (folder / "tin-4.jpg").write_bytes(b"no picture")
            first, *others = sorted(folder.iterdir())
            asked = ("--reference", first, "--grey", "0.12,0.86,0.02")
            done = oxlen("series", "check", *others, *asked)
            self.assertEqual(done.returncode, 0, done.stderr)
            found = json.loads(done.stdout)
            gone = oxlen("series", "check", first, "--reference", folder / "tin-4.jpg")
        self.assertEqual(found["reference"], "tin-0.png")
        verdicts = [(each["verdict"], each["reasons"]) for each in found["files"]]
        self.assertEqual(verdicts[:2], [("matches", []), ("off", ["exposure"])])
        self.assertEqual(set(found["files"][0]), FIELDS)
        self.assertAlmostEqual(found["files"][1]["exposure_stops"], -0.4, delta=0.03)
        self.assertEqual([verdict for verdict, _ in verdicts[2:]], ["not judged"] * 2)
        self.assertIn("another shape", found["files"][2]["why"])
        self.assertIn("tin-4.jpg", found["files"][3]["why"])
        self.assertEqual((gone.returncode, "tin-4.jpg" in gone.stderr), (2, True))

    def test_pictures_are_handed_over_matched_and_listed(self):
        wrong = (Mistake(), Mistake(stops=-0.5), Mistake(tilt_deg=2), Mistake(mired=40))
        with tempfile.TemporaryDirectory() as held:
            folder, bench = Path(held), Bench(9)
            for number, mistake in enumerate(wrong):
                Image.fromarray(bench.take(number, mistake)).save(folder / f"t{number}.png")
            (folder / "t9.jpg").write_bytes(b"no picture")
            files, out = sorted(folder.glob("t*")), folder / "shop"
            asked = (*files, "--reference", files[0], "--out", out)
            done = oxlen("series", "export", *asked, "--name", "tin-{number:02d}", "--size", "640")
            self.assertEqual(done.returncode, 0, done.stderr)
            made = sorted(out.glob("*.jpg"))
            self.assertEqual([path.name for path in made], [f"tin-0{n}.jpg" for n in (1, 2, 3, 4)])
            with Image.open(made[1]) as image:
                self.assertEqual((max(image.size), len(image.getexif())), (640, 0))
                self.assertIn("icc_profile", image.info)
            again = oxlen("series", "check", *made, "--reference", made[0])
            rows = (out / "series.csv").read_text().splitlines()
            refused = oxlen("series", "export", *asked)
        verdicts = [each["verdict"] for each in json.loads(again.stdout)["files"]]
        self.assertEqual(verdicts, ["matches"] * 4)
        self.assertEqual(rows[2], "2,,,tin-02.jpg,t1.png,matched,exposure,0.00")
        self.assertIn("t9.jpg,left out", rows[5])
        self.assertEqual(refused.returncode, 2)
        self.assertIn("series.csv is in the folder already", refused.stderr)


if __name__ == "__main__":
    unittest.main()
