"""The runner of the tests: every module in one group, words find tests, results are counted."""

import contextlib
import io
import sys
import types
import unittest
from pathlib import Path
from unittest import mock

from tools import run_tests

ROOT = Path(__file__).parents[2]


class Sample(unittest.TestCase):
    """Not run by itself: what the runner is tried on."""

    def test_good(self):
        pass

    def test_bad_in_two_rows(self):
        for row in (1, 2):
            with self.subTest(row):
                self.fail("as wanted")

    @unittest.skip("as wanted")
    def test_left_out(self):
        pass


class Groups(unittest.TestCase):
    def test_every_module_is_in_exactly_one_group(self):
        modules = [
            ".".join(path.relative_to(ROOT).with_suffix("").parts)
            for path in (ROOT / "tests").rglob("test_*.py")
        ]
        grouped = [name for group in run_tests.groups() for name in group.split(run_tests.BETWEEN)]
        self.assertCountEqual(grouped, modules)

    def test_the_slow_begin_first_and_what_must_be_alone_is(self):
        found = run_tests.groups()
        self.assertTrue(found[0].startswith("tests.browser"))
        self.assertTrue(found[1].startswith("tests.browser"))
        self.assertEqual(found[2], "tests.server.test_any_request")
        for name in run_tests.ALONE:
            self.assertIn(name, found)

    def test_groups_of_a_folder_are_about_as_large(self):
        def lines(group):
            files = [ROOT / f"{name.replace('.', '/')}.py" for name in group.split("+")]
            return sum(len(file.read_text("utf-8").splitlines()) for file in files)

        sizes = [
            lines(group)
            for group in run_tests.groups()
            if group.startswith("tests.core.") and "+" in group
        ]
        self.assertEqual(len(sizes), run_tests.TOGETHER["core"])
        self.assertLess(max(sizes), 1.2 * min(sizes))


class Words(unittest.TestCase):
    def test_a_module_is_itself_and_any_other_word_finds_tests(self):
        self.assertEqual(run_tests.matching(["tests.core"]), ["tests.core"])
        found = run_tests.matching(["every_module_is_in"])
        own = "tests.tools.test_run_tests.Groups.test_every_module_is_in_exactly_one_group"
        self.assertEqual(found, [own])
        self.assertIn("tests.tools.test_run_tests", run_tests.matching(["run_tests"]))
        self.assertEqual(run_tests.matching(["nothing_is_named_so"]), [])


class Counting(unittest.TestCase):
    def test_a_test_that_fails_in_two_rows_fails_once(self):
        module = types.ModuleType("sample_of_tests")
        vars(module)["Sample"] = type("Sample", (Sample,), {})
        with (
            mock.patch.dict(sys.modules, {"sample_of_tests": module}),
            contextlib.redirect_stderr(io.StringIO()),
        ):
            counted = run_tests.run_here(["sample_of_tests"])
        self.assertEqual(counted, (1, 1, 1))

    def run_groups(self, *outputs):
        ended = [
            (f"group-{number}", types.SimpleNamespace(stdout=text, stderr="its trouble"), 1.0)
            for number, text in enumerate(outputs)
        ]
        stated = io.StringIO()
        with (
            mock.patch.object(run_tests, "side_by_side", return_value=iter(ended)),
            contextlib.redirect_stdout(stated),
        ):
            counted = run_tests.run_groups(["any"])
        return counted, stated.getvalue()

    def test_groups_add_up_and_one_that_dies_is_a_failure(self):
        counted, stated = self.run_groups(
            "1.5\n3 passed, 0 failed, 1 skipped", "2.0\n2 passed, 1 failed, 0 skipped", "Killed"
        )
        self.assertEqual(counted, (5, 2, 1))
        self.assertEqual(stated.count("its trouble"), 2)  # of those that failed alone

    def test_nothing_run_is_no_success(self):
        with (
            mock.patch.object(run_tests, "run_groups", return_value=(0, 0, 0)),
            mock.patch.object(sys, "argv", ["run_tests.py"]),
            contextlib.redirect_stdout(io.StringIO()) as stated,
        ):
            self.assertEqual(run_tests.main(), 1)
        self.assertEqual(stated.getvalue().splitlines()[-1], "0 passed, 0 failed, 0 skipped")


def load_tests(_loader, _tests, _pattern):
    """All but the sample."""
    suite = unittest.TestSuite()
    for case in (Groups, Words, Counting):
        suite.addTests(unittest.defaultTestLoader.loadTestsFromTestCase(case))
    return suite
