"""What finds circles of imports finds them, and what is no import at load is none."""

import contextlib
import io
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from tools import import_graph

FILES = {
    "oxlen/__init__.py": "",
    "oxlen/a.py": "from oxlen import b\n",
    "oxlen/b.py": "import oxlen.c\n",
    "oxlen/c.py": "try:\n    from oxlen.a import thing\nexcept ImportError:\n    pass\n",
    "oxlen/late.py": "def run():\n    from oxlen import a\n",
    "oxlen/typed.py": "from typing import TYPE_CHECKING\nif TYPE_CHECKING:\n    import oxlen.a\n",
    "oxlen/leaf.py": "import os\nfrom oxlen.late import run\n",
}
WEB = {
    "ui/Button.tsx": 'import { useSay } from "../features/say";\n',
    "features/say.ts": 'import { shape } from "../ui/shape";\n',
    "ui/shape.ts": 'import { useState } from "react";\n',
}


class ImportGraph(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def write(self, files):
        for name, text in files.items():
            path = self.folder / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")

    def test_only_what_runs_at_load_is_an_import(self):
        self.write(FILES)
        with mock.patch.object(import_graph, "SOURCE", self.folder):
            found = import_graph.graph()
        self.assertEqual(found["oxlen.a"], {"oxlen", "oxlen.b"})
        self.assertEqual(found["oxlen.c"], {"oxlen.a"})
        self.assertEqual((found["oxlen.late"], found["oxlen.typed"]), (set(), set()))
        self.assertEqual(found["oxlen.leaf"], {"oxlen.late"})
        self.assertEqual(import_graph.circles(found), [["oxlen.a", "oxlen.b", "oxlen.c"]])

    def test_circles_are_whole_and_the_largest_comes_first(self):
        modules = {
            "a": {"b"},
            "b": {"a", "c"},
            "c": {"d"},
            "d": {"e"},
            "e": {"c"},
            "f": {"a"},
        }
        self.assertEqual(import_graph.circles(modules), [["c", "d", "e"], ["a", "b"]])
        self.assertEqual(import_graph.circles({"a": {"b"}, "b": set()}), [])

    def test_an_import_against_the_order_of_the_front_end_is_named(self):
        self.write(WEB)
        with mock.patch.object(import_graph, "WEB", self.folder.resolve()):
            found = import_graph.upward_in_web()
        self.assertEqual(found, ["ui/Button.tsx imports features/say"])

    def test_the_command_fails_where_there_is_one(self):
        self.write(FILES)
        stated = io.StringIO()
        with (
            mock.patch.object(import_graph, "SOURCE", self.folder),
            mock.patch.object(sys, "argv", ["import_graph.py"]),
            contextlib.redirect_stdout(stated),
        ):
            self.assertEqual(import_graph.main(), 1)
        self.assertEqual(stated.getvalue(), "3: oxlen.a, oxlen.b, oxlen.c\n")
