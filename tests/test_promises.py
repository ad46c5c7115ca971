"""Promises the project makes of itself: layers, names, documents, licences of words."""

import ast
import doctest
import functools
import importlib
import json
import pkgutil
import re
import shlex
import unittest
from pathlib import Path

from tools.import_graph import circles, graph, upward_in_web

import oxlen
import oxlen.core
from oxlen.cli.main import _parser
from oxlen.core.compute.registry import COMPUTATIONS
from oxlen.formats.schemas import SCHEMAS
from oxlen.server.app import create_app
from oxlen.store.library import Library

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "oxlen"
CORE_MAY_IMPORT = {"cv2", "numpy", "scipy", "skyfield", "oxlen"}
STANDARD_IN_CORE = {
    "bisect",
    "__future__",
    "atexit",  # the ephemeris is closed at the end
    "collections",
    "dataclasses",
    "datetime",
    "decimal",
    "enum",
    "functools",
    "importlib",  # where the package with the ephemeris is
    "itertools",
    "math",
    "re",
    "statistics",
    "typing",
}
# Each folder may import itself, the core, and what comes before it.
ORDER = [
    "core",
    "formats",
    "network",
    "pictures",
    "store",
    "metering",
    "light_plan",
    "phones",
    "preview",
    "views",
    "cards",
    "takes",
    "stacking",
    "shop",
    "workers",
    "devices",
    "demo",
    "server",
    "cli",
]
STANDINS_MAY_BE_IMPORTED_BY = {
    "devices/standins",
    "demo/seed.py",
    "demo/yard_shop.py",
    "server/routes/take/takes.py",
    "server/routes/kit/mystery.py",
    "server/routes/take/stacks.py",
    "server/routes/sheet/shared_frames.py",
    "server/routes/live/bench_camera.py",
    "cli/bench_shoot.py",
}
"""Simulated devices are for the demo and the bench alone."""
PIXELS_PROTOCOL = ("sample", "disc", "preview_image")
# Each domain may import itself and those before it; what decides comes after all formulas.
CORE_ORDER = [
    "light",
    "live",
    "colour",
    "sensor",
    "hold",
    "motion",
    "lens",
    "focus",
    "frames",
    "kit",
    "sky",
    "measures",
    "simulate",
    "decisions",
    "outing",
    "long_exposure",
    "night",
    "drawing",
    "checklist",
    "review",
    "series",
    "develop",
    "compute",
]
DECISIONS_IN_COMMON = ("framework", "scene", "solver", "exposure", "colour", "focus")
"""Each may use those before it. All others may use them, and of each other what they ask."""
LARGEST_FILE, LARGEST_FUNCTION, LARGEST_COMPONENT, MOST_FILES = 300, 40, 150, 25


@functools.cache
def read(path):
    """The syntax tree of a file, read once for all promises."""
    return ast.parse(path.read_text("utf-8"))


def modules(folder):
    """Every Python file below a folder with its syntax tree."""
    for path in sorted(folder.rglob("*.py")):
        yield path, read(path)


def imports(tree):
    """Modules a file imports, wherever in it."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


KEY = re.compile(r"\[([A-Z][A-Z0-9][\w.-]+)\]")


def docstrings(tree):
    """Every docstring of a file."""
    kinds = ast.Module | ast.FunctionDef | ast.ClassDef | ast.AsyncFunctionDef
    found = (ast.get_docstring(node) for node in ast.walk(tree) if isinstance(node, kinds))
    return [text for text in found if text]


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

    def test_no_modules_import_each_other_in_a_circle(self):
        self.assertEqual(circles(graph()), [])
        planted = {"a": {"b"}, "b": {"c"}, "c": {"b"}, "d": {"a"}}
        self.assertEqual(circles(planted), [["b", "c"]])

    def test_one_function_turns_a_sheet_into_a_brief(self):
        """Called past it, a picture of another phone would be judged by the kit's."""
        inside = ("briefed_sheet.py", "sheet_brief.py", "resolve_phone.py")
        for path, _ in modules(SOURCE):
            calls = re.findall(r"\b(brief_of_sheet|resolve_phone)\(", path.read_text("utf-8"))
            if path.name not in inside:
                self.assertEqual(calls, [], path)

    def test_the_front_end_imports_from_the_folders_before(self):
        self.assertEqual(upward_in_web(), [])

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
        rooms = {
            item.name for item in (SOURCE / "core").iterdir() if (item / "__init__.py").is_file()
        }
        self.assertEqual(rooms, set(CORE_ORDER))
        for path, tree in modules(SOURCE / "core"):
            domain = path.relative_to(SOURCE / "core").parts[0]
            for name in imports(tree):
                other = name.split(".")[2] if name.count(".") >= 2 else None
                if domain in CORE_ORDER and other in CORE_ORDER:
                    self.assertLessEqual(CORE_ORDER.index(other), CORE_ORDER.index(domain), path)

    def test_stand_ins_are_for_the_demo_and_the_bench(self):
        for path, tree in modules(SOURCE):
            own = path.relative_to(SOURCE).as_posix()
            if any("standins" in name for name in imports(tree)):
                allowed = any(own.startswith(item) for item in STANDINS_MAY_BE_IMPORTED_BY)
                self.assertTrue(allowed, f"{own} imports a stand-in")

    def test_decisions_import_what_is_common_to_them_and_what_the_others_ask(self):
        decisions = SOURCE / "core" / "decisions"
        folders = {item.name for item in decisions.iterdir() if (item / "__init__.py").is_file()}
        order = {name: place for place, name in enumerate(DECISIONS_IN_COMMON)}
        self.assertLessEqual(set(order), folders)
        for path, tree in modules(decisions):
            own = path.relative_to(decisions).parts[0]
            for name in imports(tree):
                parts = name.split(".")
                other = parts[3] if name.startswith("oxlen.core.decisions.") else own
                is_ask = len(parts) > 4 and parts[4].endswith("ask")
                if own not in folders or other not in folders or is_ask or other == own:
                    continue
                self.assertLess(
                    order.get(other, len(order)), order.get(own, len(order)), f"{path}: {name}"
                )

    def test_the_framework_knows_no_decision(self):
        for path, tree in modules(SOURCE / "core" / "decisions" / "framework"):
            for name in imports(tree):
                known = not name.startswith("oxlen.core.decisions.") or ".framework." in name
                self.assertTrue(known, f"{path.name} imports {name}")

    def test_no_folder_holds_more_than_one_finds_a_file_in(self):
        for room in ("src", "tests", "bench", "tools", "web/src"):
            folders = {
                path.parent
                for path in (ROOT / room).rglob("*.*")
                if "__pycache__" not in path.parts
            }
            for folder in folders:
                files = [item for item in folder.iterdir() if item.suffix in (".py", ".ts", ".tsx")]
                self.assertLessEqual(len(files), MOST_FILES, folder)

    def test_sql_stays_in_the_store(self):
        for path, _ in modules(SOURCE):
            if "store" not in path.parts:
                self.assertNotIn(".execute(", path.read_text("utf-8"), path)


class Documents(unittest.TestCase):
    def test_every_public_function_and_class_says_what_it_is(self):
        for path, tree in modules(SOURCE):
            for node in outer_definitions(tree):
                protocol = path.name == "reading.py" and node.name in (
                    "sample",
                    "disc",
                    "preview_image",
                )
                inner = node.name.startswith("_") or protocol
                if not inner:
                    self.assertTrue(ast.get_docstring(node), f"{path.name}: {node.name}")

    def test_every_reference_key_exists(self):
        known = set(re.findall(r"^- \[(\w+[\w-]*)\]", self.text("docs/REFERENCES.md"), re.M))
        for path, tree in modules(SOURCE / "core"):
            # In docstrings alone: code has names in brackets of its own.
            used = [key for text in docstrings(tree) for key in KEY.findall(text)]
            for key in used:
                self.assertIn(key.replace(".", "_"), known, path.name)

    def test_every_route_command_and_formula_is_documented(self):
        api = self.text("docs/API.md")
        for route in create_app(Library(Path("nowhere"))).openapi()["paths"]:
            self.assertIn(f"`{route}`", api)
        readme = self.text("README.md") + self.text("docs/COMMANDS.md")
        commands = ("demo", "serve", "test", "meter", "plan", "compute", "bench-shoot", "backup")
        for command in (*commands, "restore"):
            self.assertIn(f"./oxlen {command}", readme)
        formulas = self.text("docs/FORMULAS.md")
        for entry in COMPUTATIONS:
            self.assertIn(f"`{entry}`", formulas)

    def test_every_documented_command_is_one(self):
        documented = self.text("README.md") + self.text("docs/COMMANDS.md")
        lines = re.findall(r"^\./oxlen (.+)$", documented, re.M)
        lines += [f"schema {name}" for name in SCHEMAS]
        self.assertGreater(len(lines), 20)
        for line in lines:
            words = shlex.split(line, comments=True)
            if words[0] not in ("test", "bench", "dev", "lint", "format"):  # the launcher's own
                with self.subTest(line):
                    self.assertTrue(_parser().parse_args(words).module)

    def test_the_version_is_stated_once_and_the_changelog_begins_with_it(self):
        dated = r"^## (\S+) \(\w{3} \d{1,2} \w{3} \d{4}\)$"
        changes = self.text("CHANGELOG.md")
        self.assertEqual(
            len(re.findall(r"^## ", changes, re.M)), len(re.findall(dated, changes, re.M))
        )
        first = re.search(dated, changes, re.M)
        self.assertEqual(first[1], oxlen.__version__)
        for name in ("pyproject.toml", "web/package.json"):
            self.assertNotIn(oxlen.__version__, self.text(name))

    def test_the_architecture_names_files_that_exist(self):
        rooms = (ROOT / "src", ROOT / "web" / "src", ROOT / "tests", ROOT / "tools", ROOT / "bench")
        files = [path.as_posix() for room in rooms for path in room.rglob("*.[pt][ys]*")]
        for name in re.findall(r"`([\w/.]+\.(?:py|tsx?))`", self.text("docs/ARCHITECTURE.md")):
            self.assertTrue(any(path.endswith(f"/{name}") for path in files), name)

    def test_the_readme_is_short_and_every_guide_is_linked(self):
        readme = self.text("README.md")
        self.assertLessEqual(len(readme.split()), 450)
        for guide in (ROOT / "docs" / "guide").glob("*.md"):
            self.assertIn(f"docs/guide/{guide.name}", readme)
            for target in re.findall(r"\]\(([^)#]+)\)", guide.read_text("utf-8")):
                self.assertTrue((guide.parent / target).exists(), f"{guide.name}: {target}")

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
        web = (ROOT / "web" / "src").rglob("*.ts*")
        written = [path for path in web if path.name != "schema.d.ts"]
        python = [path for folder in (SOURCE, ROOT / "tests") for path, _ in modules(folder)]
        for path in (*python, *written):
            most = 400 if "tests" in path.parts else LARGEST_FILE
            self.assertLessEqual(len(path.read_text("utf-8").splitlines()), most, path)

    def test_functions_stay_short(self):
        for path, tree in modules(SOURCE):
            for node in ast.walk(tree):
                if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                    lines = (node.end_lineno or 0) - node.lineno + 1
                    self.assertLessEqual(lines, LARGEST_FUNCTION, f"{path.name}: {node.name}")

    def test_records_are_filled_by_keyword_past_three(self):
        # Functions are counted by the linter (PLR0917); it does not see what is made of a class.
        trees = [(path, tree) for path, tree in modules(SOURCE)]
        ours = {n.name for _, tree in trees for n in ast.walk(tree) if isinstance(n, ast.ClassDef)}
        for path, tree in trees:
            for node in ast.walk(tree):
                if isinstance(node, ast.Call) and ast.unparse(node.func).split(".")[-1] in ours:
                    line = f"{path.name}:{node.lineno}: {ast.unparse(node)[:80]}"
                    self.assertLessEqual(len(node.args), 3, line)

    def test_components_stay_short(self):
        for path in (ROOT / "web" / "src").rglob("*.tsx"):
            for name, lines in components(path.read_text("utf-8")):
                self.assertLessEqual(lines, LARGEST_COMPONENT, f"{path.name}: {name}")


def components(text):
    """Functions at the left edge of a file, with their length in lines."""
    begun = None
    for number, line in enumerate(text.splitlines()):
        start = re.match(r"(?:export )?function (\w+)", line)
        if start:
            begun = (start[1], number)
        elif line == "}" and begun:
            yield begun[0], number - begun[1] + 1
            begun = None


def outer_definitions(tree):
    """Classes, their methods and functions of a file; not what is defined inside a function."""
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            yield node
            continue
        if isinstance(node, ast.ClassDef):
            yield node
        yield from outer_definitions(node)


def load_tests(_loader, tests, _pattern):
    """The examples in the core's docstrings run as tests."""
    for found in pkgutil.walk_packages(oxlen.core.__path__, "oxlen.core."):
        tests.addTests(doctest.DocTestSuite(importlib.import_module(found.name)))
    return tests
