"""The five steps of CONTRIBUTING's "Adding a decision", walked: `a_lamp.py` and nothing else."""

import json
import os
import subprocess
import sys
import unittest
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]


class AddingADecision(unittest.TestCase):
    found: dict[str, Any]

    @classmethod
    def setUpClass(cls):
        run = subprocess.run(
            [sys.executable, "-W", "error", ROOT / "tests" / "a_lamp.py"],
            capture_output=True,
            text=True,
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
            timeout=120,
            check=False,
        )
        assert run.returncode == 0, run.stderr
        cls.found = json.loads(run.stdout)

    def test_the_command_line_decides_by_it(self):
        plan = self.found["plan"]
        self.assertEqual(plan["settings"][-1]["field"], "lamp_power")
        self.assertEqual(plan["settings"][-1]["value"], 0.8)
        self.assertEqual(
            plan["slip"]["order"],
            ["lens", "support", "iso", "shutter_s", "white", "focus", "format", "lamp_power"],
        )
        limit = next(step for step in plan["limits"] if step["id"] == "burning")
        self.assertEqual(limit["max"], 3 / 0.8)
        self.assertEqual(limit["edited_by"], ["lamp"])
        self.assertEqual(plan["conflict"]["between"], ["burning", "iso_cap"])
        half = next(trade for trade in plan["trades"] if trade["id"] == "lamp-half")
        self.assertTrue(3 / 0.8 < half["slip"]["shutter_s"] <= 3 / 0.4)

    def test_brief_and_preset_schemas_have_it(self):
        for name in ("brief", "preset"):
            with self.subTest(name):
                fields = self.found["schemas"][name]["$defs"]["PoweredLampFile"]["properties"]
                self.assertEqual(
                    (fields["power"]["minimum"], fields["power"]["maximum"]), (0.01, 1)
                )
                self.assertEqual(fields["power"]["unit"], "× full")
                self.assertIn(
                    '"$ref": "#/$defs/PoweredLampFile"', json.dumps(self.found["schemas"][name])
                )

    def test_a_preset_keeps_it(self):
        self.assertEqual(self.found["preset"]["preset"]["choices"]["lamp"]["power"], 0.5)

    def test_a_sheet_keeps_it_and_its_slip_has_a_line_of_it(self):
        for name in ("sheet", "by_hand"):
            sheet = self.found[name]
            with self.subTest(name):
                self.assertEqual(sheet["body"]["lamp"], {"power": 0.8, "burns_s": 3})
                line = sheet["answer"]["lines"][-1]
                self.assertEqual((line["name"], line["value"]), ("Lamp", "0.8 × full"))
        lines = self.found["by_hand"]["answer"]["lines"]
        shutter = next(line for line in lines if line["field"] == "shutter_s")
        self.assertEqual((shutter["value"], shutter["reason"]), ("2 s", "your choice on the map"))

    def test_its_way_out_is_a_patch_of_the_sheet(self):
        patch = self.found["sheet"]["answer"]["trades"]["lamp-half"]["patch"]
        self.assertEqual(patch["lamp"], {"power": 0.4, "burns_s": 3})
        self.assertLessEqual(set(patch), {"lamp", "steps_by_hand"})

    def test_it_is_edited_where_it_limits_and_in_its_own_row(self):
        field = self.found["sheet"]["answer"]["fields"]["burning"]["fields"][0]
        self.assertEqual((field["path"], field["value"]), (["lamp", "power"], 0.8))
        self.assertEqual((field["low"], field["high"], field["default"]), (0.01, 1, 1))
        ask = self.found["asks"]["asks"][-1]
        self.assertEqual((ask["name"], ask["decision"], ask["label"]), ("lamp", "lamp", "Lamp"))
        self.assertEqual(
            [step["label"] for step in ask["fields"]], ["Power", "Burns at full power"]
        )

    def test_it_has_an_instrument_a_step_of_the_checklist_and_a_line_of_the_card(self):
        line = self.found["sheet"]["answer"]["lines"][-1]
        self.assertEqual((line["field"], line["instrument"]), ("lamp_power", "lamp"))
        self.assertEqual(self.found["asks"]["instruments"]["lamp_power"], "lamp")
        self.assertEqual(self.found["asks"]["asks"][-1]["instrument"], "lamp")
        steps = {item["id"]: item for item in self.found["sheet"]["answer"]["run"]}
        step = steps["lamp_power"]
        self.assertEqual(
            (step["part"], step["text"], step["value"]), ("dial", "Turn the lamp to", "0.8 × full")
        )
        self.assertIn("0.8 × full", self.found["card"])

    def test_a_series_locks_it(self):
        self.assertEqual(self.found["asks"]["series_parts"][-1], {"id": "lamp", "name": "Lamp"})
        self.assertEqual(self.found["locked"]["body"]["lamp"], {"power": 0.8, "burns_s": 3})
        self.assertEqual(
            self.found["locked"]["body"]["support"], self.found["bare"]["body"]["support"]
        )

    def test_the_api_describes_and_guards_it(self):
        schemas = self.found["openapi"]["components"]["schemas"]
        self.assertIn("power", schemas["PoweredLampFile"]["properties"])
        self.assertEqual(self.found["refused"]["field"], "lamp.power")


if __name__ == "__main__":
    unittest.main()
