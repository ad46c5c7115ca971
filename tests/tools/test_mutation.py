"""The check of the tests themselves: each small change is one change, and is tried as it should."""

import ast
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tools.mutation import mutants

ROOT = Path(__file__).parents[2]
SOURCE = '''
"""Twice."""

LIMIT = 3


def doubled(value: int = 2) -> int:
    """Twice a value, at most 3.

    >>> doubled(1)
    2
    """
    if not value < LIMIT and value != 4:
        raise ValueError("over 3")
    return 2 * value
'''


class Mutation(unittest.TestCase):
    def test_each_changes_one_thing_in_a_body_and_nothing_that_is_only_said(self):
        before = ast.unparse(ast.parse(SOURCE)).splitlines()
        found = list(mutants(SOURCE))
        changed = []
        for mutant in found:
            after = mutant.source.splitlines()
            lines = [(a, b) for a, b in zip(before, after, strict=True) if a != b]
            self.assertEqual(len(lines), 1, mutant.words)
            changed.append(lines[0][1].strip())
        self.assertCountEqual(
            changed,
            [
                "if not value < LIMIT and value != 5:",
                "if not value < LIMIT and value == 4:",
                "if not value < LIMIT or value != 4:",
                "if not value <= LIMIT and value != 4:",
                "if not not value < LIMIT and value != 4:",
                "return 2 / value",
                "return 3 * value",
                "return None",
            ],
        )

    def test_a_change_that_an_example_shows_is_noticed_and_no_change_is_not(self):
        module = "oxlen.core.colour.temperature"
        source = (ROOT / "src" / "oxlen" / "core" / "colour" / "temperature.py").read_text("utf-8")
        run = str(ROOT / "tools" / "mutant_run.py")
        broken = source.replace("return MILLION / ", "return 2 * MILLION / ")
        for text, wanted in ((source, 0), (broken, 1)):
            with tempfile.NamedTemporaryFile("w", suffix=".py", encoding="utf-8") as file:
                file.write(text)
                file.flush()
                done = subprocess.run([sys.executable, run, module, file.name], check=False)
            self.assertEqual(done.returncode, wanted)
