"""Promises the project makes of itself: layers, names, documents, licences of words."""

import ast
import doctest
import importlib
import json
import pkgutil
import re
import unittest
from pathlib import Path

import oxlen.core
from oxlen.core.compute.registry import COMPUTATIONS
from oxlen.formats.schemas import SCHEMAS
from oxlen.server.app import create_app
from oxlen.store.library import Library

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "oxlen"
CORE_MAY_IMPORT = {"cv2", "numpy", "scipy", "oxlen"}
STANDARD_IN_CORE = {
    "bisect",
    "__future__",
    "collections",
    "dataclasses",
    "functools",
    "itertools",
    "math",
    "statistics",
    "typing",
}
# Each folder may import itself, the core, and what stands before it.
ORDER = ["core", "formats", "pictures", "store", "devices", "sheets", "demo", "server", "cli"]
PIXELS_PROTOCOL = ("sample", "disc", "preview_image")
CORE_ORDER = ["light", "sensor", "hold", "motion", "lens", "kit", "simulate", "decide", "compute"]


def modules(folder):
    """Every Python file below a folder with its syntax tree."""
    for path in sorted(folder.rglob("*.py")):
        yield path, ast.parse(path.read_text("utf-8"))


def imports(tree):
    """Modules a file imports, wherever in it."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


class Layers(unittest.TestCase):
    def test_core_computes_and_nothing_else(self):
        for path, tree in modules(SOURCE / "core"):
            for name in imports(tree):
                top = name.split(".")[0]
                self.assertIn(
                    top, CORE_MAY_IMPORT | STANDARD_IN_CORE, f"{path.name} imports {name}"
                )
                if top == "oxlen":
                    self.assertTrue(name.startswith("oxlen.core"), f"{path.name} imports {name}")

    def test_imports_point_inward(self):
        for path, tree in modules(SOURCE):
            parts = path.relative_to(SOURCE).parts
            if len(parts) < 2:
                continue
            for name in imports(tree):
                other = name.split(".")[1] if name.startswith("oxlen.") else None
                # The command line starts everything, the server included; it comes last.
                if other in ORDER:
                    self.assertLessEqual(
                        ORDER.index(other), ORDER.index(parts[0]), f"{path}: {name}"
                    )

    def test_core_domains_point_inward(self):
        for path, tree in modules(SOURCE / "core"):
            domain = path.relative_to(SOURCE / "core").parts[0]
            for name in imports(tree):
                other = name.split(".")[2] if name.count(".") >= 2 else None
                if domain in CORE_ORDER and other in CORE_ORDER:
                    self.assertLessEqual(CORE_ORDER.index(other), CORE_ORDER.index(domain), path)

    def test_sql_stays_in_the_store(self):
        for path, _ in modules(SOURCE):
            if "store" not in path.parts:
                self.assertNotIn(".execute(", path.read_text("utf-8"), path)


class Documents(unittest.TestCase):
    def test_every_public_function_and_class_says_what_it_is(self):
        for path, tree in modules(SOURCE):
            for node in ast.walk(tree):
                if not isinstance(node, ast.FunctionDef | ast.ClassDef | ast.AsyncFunctionDef):
                    continue
                protocol = path.name == "reading.py" and node.name in (
                    "sample",
                    "disc",
                    "preview_image",
                )
                inner = node.name.startswith("_") or protocol
                if not inner and not _is_nested(tree, node):
                    self.assertTrue(ast.get_docstring(node), f"{path.name}: {node.name}")

    def test_every_reference_key_exists(self):
        known = set(re.findall(r"^- \[(\w+[\w-]*)\]", self.text("docs/REFERENCES.md"), re.M))
        for path, _ in modules(SOURCE / "core"):
            used = re.findall(r"\[([A-Z][A-Z0-9][\w.-]+)\]", path.read_text("utf-8"))
            for key in used:
                self.assertIn(key.replace(".", "_"), known, path.name)

    def test_every_route_command_and_formula_is_documented(self):
        api = self.text("docs/API.md")
        for route in create_app(Library(Path("nowhere"))).openapi()["paths"]:
            self.assertIn(f"`{route}`", api)
        readme = self.text("README.md")
        commands = ("demo", "serve", "test", "meter", "plan", "compute", "bench-shoot", "backup")
        for command in (*commands, "restore"):
            self.assertIn(f"./oxlen {command}", readme)
        formulas = self.text("docs/FORMULAS.md")
        for entry in COMPUTATIONS:
            self.assertIn(f"`{entry}`", formulas)

    def test_published_schemas_are_current(self):
        for name, model in SCHEMAS.items():
            kept = json.loads(self.text(f"docs/schemas/{name}.schema.json"))
            self.assertEqual(kept, model.model_json_schema())

    def test_screenshots_are_linked_and_few(self):
        shots = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
        self.assertTrue(0 < len(shots) < 20)
        readme = self.text("README.md")
        for shot in shots:
            self.assertIn(shot.name, readme)

    @staticmethod
    def text(name):
        return (ROOT / name).read_text("utf-8")


class Size(unittest.TestCase):
    def test_files_stay_short(self):
        for folder in (SOURCE, ROOT / "tests"):
            for path, _ in modules(folder):
                self.assertLessEqual(len(path.read_text("utf-8").splitlines()), 400, path)


def _is_nested(tree, node):
    """Whether a definition lies inside a function."""
    return any(
        isinstance(outer, ast.FunctionDef | ast.AsyncFunctionDef)
        and outer is not node
        and any(inner is node for inner in ast.walk(outer))
        for outer in ast.walk(tree)
    )


def load_tests(_loader, tests, _pattern):
    """The examples in the core's docstrings run as tests."""
    for found in pkgutil.walk_packages(oxlen.core.__path__, "oxlen.core."):
        tests.addTests(doctest.DocTestSuite(importlib.import_module(found.name)))
    return tests
