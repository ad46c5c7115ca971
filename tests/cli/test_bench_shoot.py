"""`oxlen bench-shoot`: scenes by slip and on auto, and the plan's slip straight into it."""

import json
import tempfile
import unittest
from pathlib import Path

from tests.cli.test_commands import oxlen


class BenchShoot(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_auto_then_by_a_plan_made_from_it(self):
        out = self.folder / "takes"
        auto = oxlen("bench-shoot", "yard-overcast", "--auto", "--out", out, "--seed", "4")
        self.assertEqual(auto.returncode, 0, auto.stderr)
        jpeg, dng = json.loads(auto.stdout)["files"]
        metered = json.loads(oxlen("meter", dng, "--spot", "hull=0.42,0.545").stdout)
        self.assertEqual(metered["confidence"], "measured")
        reading = {"role": "subject", "ev100": metered["spots"][0]["ev100"], "place": -1}
        plan = oxlen("plan", "-", stdin=json.dumps({"phone": "wherry-3", "readings": [reading]}))
        shot = oxlen("bench-shoot", "yard-overcast", "--slip", "-", "--out", out, stdin=plan.stdout)
        reported = json.loads(shot.stdout)
        slip = json.loads(plan.stdout)["slip"]
        self.assertEqual((reported["iso"], reported["shutter_s"]), (slip["iso"], slip["shutter_s"]))
        again = json.loads(oxlen("meter", reported["files"][1], "--spot", "hull=0.42,0.545").stdout)
        tone = again["spots"][0]["stops_from_mid"]
        self.assertAlmostEqual(tone, -1 + slip["residual_stops"], delta=0.12)
        self.assertTrue(Path(jpeg).is_file())

    def test_a_slip_planned_for_glass_is_shot_through_it(self):
        glass = {"on": [{"name": "ND 64", "factor": 64}]}
        reading = {"role": "subject", "ev100": 12.0, "place": 0}
        brief = {"phone": "wherry-3", "readings": [reading], "nd": glass, "support": "tripod"}
        tones = []
        for worn in (brief, {**brief, "nd": {}}):
            plan = oxlen("plan", "-", stdin=json.dumps(worn)).stdout
            slip = json.loads(plan)["slip"]
            self.assertEqual(slip["glass_stops"], 6.0 if worn is brief else 0.0)
            arguments = ("yard-overcast", "--slip", "-", "--out", self.folder)
            shot = json.loads(oxlen("bench-shoot", *arguments, stdin=plan).stdout)
            frame = json.loads(oxlen("meter", shot["files"][1], "--spot", "mud=0.8,0.83").stdout)
            tones.append(frame["spots"][0]["stops_from_mid"] - slip["residual_stops"])
        self.assertAlmostEqual(tones[0], tones[1], delta=0.05)

    def test_refusals_say_what_to_do(self):
        rows = [
            (("nowhere", "--auto", "--out", "x"), "Use one of"),
            (("sluice", "--out", "x"), "--slip FILE or --auto"),
            (("sluice", "--slip", "-", "--out", "x"), "needs iso and shutter_s"),
            ((), "--list"),
        ]
        for arguments, words in rows:
            with self.subTest(arguments):
                run = oxlen("bench-shoot", *arguments, stdin="{}")
                self.assertEqual(run.returncode, 2)
                self.assertIn(words, run.stderr)
        self.assertEqual(len(json.loads(oxlen("bench-shoot", "--list").stdout)), 14)
