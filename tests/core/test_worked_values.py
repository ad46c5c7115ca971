"""Every computation against values worked independently of this project."""

import json
import unittest
from datetime import datetime
from pathlib import Path

from oxlen.core.compute.registry import COMPUTATIONS, computation
from oxlen.core.errors import BadInput, NotFound, OutOfRange

WORKED = json.loads(
    (Path(__file__).parents[1] / "reference" / "worked_values.json").read_text("utf-8")
)


def tolerance(quantity, output, want):
    """Absolute tolerance of one output: max(abs, rel·|want|)."""
    rule = quantity["tolerance"]
    rule = rule.get("by_output", {}).get(output, rule)
    return max(rule.get("abs", 0), rule.get("rel", 0) * abs(want))


class WorkedValues(unittest.TestCase):
    def check(self, quantity, case):
        got = computation(quantity["id"]).run(case["in"])
        self.assertEqual(set(got), set(case["out"]))
        for name, want in case["out"].items():
            timed = "abs_seconds" in quantity["tolerance"] and want is not None
            if (isinstance(want, bool | str) and not timed) or want is None:
                self.assertEqual(got[name], want)
                continue
            if timed:
                apart = datetime.fromisoformat(got[name]) - datetime.fromisoformat(want)
                # A good deal nearer than the minute they were given for.
                self.assertLessEqual(abs(apart.total_seconds()), 2, name)
                continue
            found, wanted = (v if isinstance(v, list) else [v] for v in (got[name], want))
            self.assertEqual(len(found), len(wanted), name)
            for value, right in zip(found, wanted, strict=True):
                if right is None:
                    self.assertIsNone(value, name)
                    continue
                self.assertLessEqual(abs(value - right), tolerance(quantity, name, right), name)

    def test_every_case(self):
        for quantity in WORKED["quantities"]:
            for case in quantity["cases"]:
                with self.subTest(quantity["id"], case=str(case["in"])[:120]):
                    self.check(quantity, case)

    def test_names_and_units_agree(self):
        for quantity in WORKED["quantities"]:
            entry = COMPUTATIONS[quantity["id"]]
            self.assertEqual(set(entry.inputs), set(quantity["inputs"]), entry.id)
            self.assertEqual(set(entry.outputs), set(quantity["output"]), entry.id)

    def test_no_computation_goes_unchecked(self):
        self.assertEqual(set(COMPUTATIONS), {q["id"] for q in WORKED["quantities"]})


class Refusals(unittest.TestCase):
    def test_inputs_are_refused_by_name(self):
        rows = [
            ("ev100", {"N": 1.8, "t": 0, "iso": 100}, OutOfRange, "shutter_s"),
            ("ev100", {"N": 1.8, "t": 0.1}, BadInput, "iso"),
            ("ev100", {"N": 1.8, "t": 0.1, "iso": 100, "gain": 1}, BadInput, "gain"),
            ("ev100", {"N": "f/2", "t": 0.1, "iso": 100}, BadInput, "N"),
            ("ev100", {"N": True, "t": 0.1, "iso": 100}, BadInput, "N"),
            ("ev100", [1.8, 0.1, 100], BadInput, "by name"),
            ("spot_mean_ev100", {"codes": [], "N": 1, "t": 1, "iso": 1}, BadInput, "codes"),
            ("photon_transfer", {"pairs": [[1, 2]], "black": 0}, BadInput, "two or more levels"),
            ("snr_output", {"snr": float("inf"), "p_in": 1, "p_out": 1}, BadInput, "snr"),
        ]
        for name, given, error, words in rows:
            with self.subTest(name, given=given), self.assertRaisesRegex(error, words):
                computation(name).run(given)

    def test_unknown_id(self):
        with self.assertRaisesRegex(NotFound, "warp_factor"):
            computation("warp_factor")

    def test_takes_without_an_answer_give_none(self):
        separable = {"t": [0.01, 0.02, 0.2, 0.4], "f35": [24] * 4, "kept": [1, 1, 0, 0]}
        wrong_slope = {"t": [0.01, 0.02, 0.2, 0.4, 0.3], "f35": [24] * 5, "kept": [0, 1, 0, 1, 1]}
        for given in (separable, wrong_slope):
            self.assertIsNone(computation("logistic_keeper").run(given)["x90"])
        self.assertIsNone(computation("burst_size_needed").run({"q": 0, "p": 0.5})["n"])
        lost = {"full_well": 6000, "base_iso": 100, "iso": 100, "headroom": 3, "read_noise": 2}
        lost |= {"prnu": 0.2, "M": 1, "p_in": 1, "p_out": 1}
        self.assertIsNone(computation("usable_range_stops").run(lost)["k_low"])
