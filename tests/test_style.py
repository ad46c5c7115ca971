"""Formatting, lint and types, Python and front end, by the tools the project is locked to."""

import os
import subprocess
import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[1]
WEB = ROOT / "web"
LIMIT_S = 900
"""For a tool that never ends; a busy machine takes its time."""


class Style(unittest.TestCase):
    def run_tool(self, *command, folder=ROOT):
        run = subprocess.run(
            command, cwd=folder, capture_output=True, text=True, timeout=LIMIT_S, check=False
        )
        self.assertEqual(run.returncode, 0, (run.stdout + run.stderr)[-4000:])

    def test_ruff_format(self):
        self.run_tool(sys.executable, "-m", "ruff", "format", "--check", ".")

    def test_ruff_lint(self):
        self.run_tool(sys.executable, "-m", "ruff", "check", ".")

    def test_mypy_strict(self):
        # A fresh checkout has no cache to reuse, and writing one takes a third of the run.
        kept = [] if (ROOT / ".mypy_cache").exists() else ["--cache-dir", os.devnull]
        self.run_tool(sys.executable, "-m", "mypy", *kept)

    def test_typescript_and_eslint(self):
        self.run_tool("npm", "run", "--silent", "check", folder=WEB)

    def test_prettier(self):
        self.run_tool("npm", "run", "--silent", "format", folder=WEB)
