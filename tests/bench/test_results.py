"""The benchmarks' own results: over, noisy, failed; one failure never stops the rest."""

import contextlib
import io
import json
import re
import sys
import unittest
from pathlib import Path
from types import SimpleNamespace
from unittest import mock

from bench.harness import results
from bench.harness.bounds import BOUNDS
from bench.harness.measure import Figure, in_turns, ratio_of
from bench.harness.page import page

from bench import __main__ as bench

ROOT = Path(__file__).parents[2]
QUIET, BUSY = 1.0, 1.6


def broken():
    yield Figure("well", 0.5, spread=0.05)
    raise FileNotFoundError("the picture is gone")


MODULES = {
    "broken": SimpleNamespace(figures=broken),
    "over": SimpleNamespace(figures=lambda: iter([Figure("slow", 2.0, spread=0.05)])),
    "wild": SimpleNamespace(figures=lambda: iter([Figure("slow", 2.0, spread=0.8)])),
    "counted": SimpleNamespace(figures=lambda: iter([Figure("lost", 1.0)])),
    "fine": SimpleNamespace(figures=lambda: iter([Figure("slow", 1.5, spread=0.05)])),
    "unbound": SimpleNamespace(figures=lambda: iter([Figure("new", 1.0)])),
}
TEST_BOUNDS = {"well": 1.0, "slow": 1.5, "lost": 0.0}


class Results(unittest.TestCase):
    def run_bench(self, *words, busy=QUIET):
        out, err = io.StringIO(), io.StringIO()
        with (
            mock.patch.object(bench, "MODULES", MODULES),
            mock.patch.object(results, "BOUNDS", TEST_BOUNDS),
            mock.patch.object(results, "contention", return_value=busy),
            mock.patch.object(sys, "argv", ["bench", *words]),
            contextlib.redirect_stdout(out),
            contextlib.redirect_stderr(err),
        ):
            return bench.main(), out.getvalue()

    def states(self, *words, busy=QUIET):
        code, reported = self.run_bench("--json", *words, busy=busy)
        return code, [(load["name"], load["state"]) for load in json.loads(reported)]

    def test_a_failure_is_a_result_and_the_rest_runs(self):
        code, states = self.states()
        wanted = [("well", "ok"), ("broken", "failed"), ("slow", "over"), ("slow", "noisy")]
        wanted += [("lost", "over"), ("slow", "ok"), ("new", "failed")]
        self.assertEqual(states, wanted)
        self.assertEqual(code, 1)
        self.assertEqual(self.run_bench("fine")[0], 0)

    def test_on_a_busy_machine_times_are_not_judged_and_counts_are(self):
        self.assertEqual(self.states("over", busy=BUSY), (0, [("slow", "noisy")]))
        self.assertIn("noisy, not judged", self.run_bench("over", busy=BUSY)[1])
        self.assertEqual(self.states("counted", busy=BUSY), (1, [("lost", "over")]))

    def test_names_are_listed_and_unknown_ones_refused(self):
        self.assertEqual(self.run_bench("--list"), (0, "\n".join(MODULES) + "\n"))
        with self.assertRaises(SystemExit):
            self.run_bench("none")

    def test_the_page_keeps_what_was_not_measured_again(self):
        with mock.patch.object(results, "BOUNDS", TEST_BOUNDS):
            first = list(results.results(MODULES, ["fine", "counted"]))
            again = list(results.results(MODULES, ["over"]))
        once = page(first, "")
        self.assertIn("| `lost` | 1.00 |", once)
        twice = page(again, once)
        self.assertIn("| `lost` | 1.00 |", twice)
        self.assertEqual(re.findall(r"\| `slow` \| ([\d.]+) ", twice), ["2.00"])


class Ratios(unittest.TestCase):
    def test_a_hiccup_of_either_does_not_move_the_ratio(self):
        steady = [(0.2, 0.1)] * 7
        self.assertAlmostEqual(ratio_of(steady).value, 2.0)
        hiccups = [*steady, (5.0, 0.1), (0.2, 3.0)]
        self.assertAlmostEqual(ratio_of(hiccups).value, 2.0)
        self.assertLess(ratio_of(hiccups).spread, 0.01)

    def test_rounds_that_differ_are_seen_in_the_spread(self):
        self.assertGreater(ratio_of([(0.1 * n, 0.1) for n in range(1, 9)]).spread, 0.5)

    def test_tasks_take_turns(self):
        order = []
        in_turns(lambda: order.append("task"), lambda: order.append("reference"), rounds=3)
        self.assertEqual(order, ["task", "reference"] * 3)


class Bounds(unittest.TestCase):
    """Every bound has its line in BOUNDS.md, with the same number, a reason and a date."""

    def test_every_bound_is_explained(self):
        text = (ROOT / "bench" / "BOUNDS.md").read_text("utf-8")
        row = re.compile(r"^\| `([^`]+)` \| ([\d.]+) \| (.+?) \| (\d{4}-\d\d-\d\d) \|$", re.M)
        lines = {name: (float(most), why) for name, most, why, _ in row.findall(text)}
        self.assertEqual({name: most for name, (most, _) in lines.items()}, dict(BOUNDS))
        short = [name for name, (_, why) in lines.items() if len(why) < 20]
        self.assertEqual(short, [])
