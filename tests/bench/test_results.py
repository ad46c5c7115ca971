"""The benchmarks' own results: over, failed and in order; one failure never stops the rest."""

import contextlib
import io
import json
import sys
import unittest
from types import SimpleNamespace
from unittest import mock

from bench import __main__ as bench


def broken():
    yield "one that is well", 0.5, 1.0
    raise FileNotFoundError("the picture is gone")


MODULES = {
    "broken": SimpleNamespace(figures=broken),
    "over": SimpleNamespace(figures=lambda: iter([("too slow", 2.0, 1.5)])),
    "fine": SimpleNamespace(figures=lambda: iter([("fast", 1.5, 1.5)])),
}


class Results(unittest.TestCase):
    def run_bench(self, *words):
        out, err = io.StringIO(), io.StringIO()
        with (
            mock.patch.object(bench, "MODULES", MODULES),
            mock.patch.object(sys, "argv", ["bench", *words]),
            contextlib.redirect_stdout(out),
            contextlib.redirect_stderr(err),
        ):
            return bench.main(), out.getvalue()

    def test_a_failure_is_a_result_and_the_rest_runs(self):
        code, told = self.run_bench("--json")
        states = [(one["name"], one["state"]) for one in json.loads(told)]
        self.assertEqual(
            states,
            [
                ("one that is well", "ok"),
                ("broken", "failed"),
                ("too slow", "over"),
                ("fast", "ok"),
            ],
        )
        self.assertEqual(code, 1)
        self.assertEqual(self.run_bench("fine")[0], 0)

    def test_names_are_listed_and_unknown_ones_refused(self):
        self.assertEqual(self.run_bench("--list"), (0, "broken\nover\nfine\n"))
        with self.assertRaises(SystemExit):
            self.run_bench("none")
