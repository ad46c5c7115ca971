"""Run every test and close with one line: N passed, N failed, N skipped.

Test files run in processes side by side, the slowest first, those of a folder in a few processes;
the browser's tests run in two, each on one server. Arguments narrow it to modules or folders, or to
the tests whose names hold a word: `./oxlen test tests.core`, `./oxlen test card`. `--long` tries
all the seeds there are, `--mutants [COUNT] [SEED]` tries the core's tests on small changes to it.
"""

from __future__ import annotations

import os
import re
import resource
import subprocess
import sys
import time
import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
BROWSER, LONG = "tests.browser", "OXLEN_TEST_LONG"
BETWEEN = "+"
TOGETHER = {
    "browser": 2,
    "server": 5,
    "core": 5,
    "formats": 1,
    "pictures": 1,
    "metering": 1,
    "views": 1,
    "hours": 1,
    "store": 1,
    "takes": 1,
}
"""Folders whose modules share so many processes: each loads the app, and its workers, once."""
ALONE = (
    "tests.server.test_any_request",
    "tests.server.test_full_disk",
    "tests.server.takes.test_many_takes",
)
BEHIND = 10
"""Niceness of all other tests: the browser's take longest and go first."""
SLOW_FIRST = tuple(
    f"tests.{name}"
    for name in (
        *("browser", "server.test_any_request", "test_style", "cli.test_serving"),
        *("server", "stacking", "cli", "preview", "devices"),
    )
)


def find_tests(names: list[str]) -> unittest.TestSuite:
    """All tests below tests/, or those of the named modules and packages."""
    loader = unittest.TestLoader()
    if not names:
        return loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    suite = unittest.TestSuite()
    for name in names:
        folder = ROOT / name.replace(".", "/")
        found = (
            loader.discover(str(folder), top_level_dir=str(ROOT))
            if folder.is_dir()
            else loader.loadTestsFromName(name)
        )
        suite.addTests(found)
    return suite


def matching(words: list[str]) -> list[str]:
    """Modules and folders as they are named; for any other word, the tests it is part of."""
    found = []
    for word in words:
        if word.startswith("tests"):
            found.append(word)
            continue
        part = re.compile(rf"\bdef (test_\w*{re.escape(word)}\w*)|^class (\w+)\(", re.MULTILINE)
        for path in sorted((ROOT / "tests").rglob("test_*.py")):
            module = ".".join(path.relative_to(ROOT).with_suffix("").parts)
            if word in path.stem:
                found.append(module)
                continue
            inside = ""
            for match in part.finditer(path.read_text("utf-8")):
                inside = match[2] or inside
                found += [f"{module}.{inside}.{match[1]}"] if match[1] else []
    return found


def run_here(names: list[str]) -> tuple[int, int, int]:
    """Run tests in this process; how many passed, failed and were skipped."""
    result = unittest.TextTestRunner(verbosity=1, buffer=False).run(find_tests(names))
    # One test may fail in several of its rows; it still counts once.
    failed = {test.id().split(" ")[0] for test, _ in (*result.failures, *result.errors)}
    failed |= {test.id() for test in result.unexpectedSuccesses}
    passed = max(0, result.testsRun - len(failed) - len(result.skipped))
    return passed, len(failed), len(result.skipped)


def groups() -> list[str]:
    """Modules to be run each in a process, the slow ones first; the browser's as two."""
    modules = [
        ".".join(path.relative_to(ROOT).with_suffix("").parts)
        for path in sorted((ROOT / "tests").rglob("test_*.py"))
    ]
    found = []
    for folder, count in TOGETHER.items():
        inside = [module for module in modules if module.startswith(f"tests.{folder}.")]
        found += _shared_out([item for item in inside if item not in ALONE], count)
    grouped = {item for group in found for item in group.split(BETWEEN)}
    apart = [name for name in modules if name not in grouped]
    return sorted([*apart, *found], key=_rank)


def _shared_out(modules: list[str], count: int) -> list[str]:
    """Modules in groups of about as many lines, each group named one after another."""
    lines = {
        module: (ROOT / f"{module.replace('.', '/')}.py").read_text().count("\n")
        for module in modules
    }
    parts: tuple[list[str], ...] = tuple([] for _ in range(count))
    for module in sorted(modules, key=lambda name: -lines[name]):
        min(parts, key=lambda part: sum(lines[name] for name in part)).append(module)
    return [BETWEEN.join(part) for part in parts if part]


def _rank(name: str) -> tuple[int, str]:
    place = next((i for i, slow in enumerate(SLOW_FIRST) if name.startswith(slow)), 99)
    return place, name


def side_by_side(names: list[str]) -> Iterator[tuple[str, subprocess.CompletedProcess[str], float]]:
    """Each group's process once it has ended, and how long it took."""

    def run(name: str) -> tuple[str, subprocess.CompletedProcess[str], float]:
        command = [sys.executable, "-W", "error", __file__, "--group", name]
        # One thread of arithmetic a process: the processes are what fills the machine.
        environment = {**os.environ, "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
        began = time.monotonic()
        done = subprocess.run(
            command, capture_output=True, text=True, check=False, cwd=ROOT, env=environment
        )
        return name, done, time.monotonic() - began

    # The two of the browser wait most of their time: two processes more than cores keep it busy.
    with ThreadPoolExecutor(max_workers=2 + max(2, os.cpu_count() or 2)) as pool:
        for ended in as_completed([pool.submit(run, name) for name in names]):
            yield ended.result()


def run_groups(names: list[str]) -> tuple[int, int, int]:
    """Run groups side by side and add up; a group that dies counts as one failure."""
    passed = failed = skipped = 0
    for name, done, seconds in side_by_side(names):
        processor, sentence = ["", "", *done.stdout.strip().splitlines()][-2:]
        numbers = [int(word) for word in sentence.split() if word.isdecimal()]
        if len(numbers) != 3:
            numbers = [0, 1, 0]
        passed, failed, skipped = passed + numbers[0], failed + numbers[1], skipped + numbers[2]
        print(f"{seconds:6.1f} s ({processor} s of processor)  {name}: {sentence}", flush=True)
        if numbers[1]:
            print(done.stdout, done.stderr, sep="\n", flush=True)
    return passed, failed, skipped


def _processor_s() -> float:
    """Processor time of this process and of those it ended: what a busy machine does not change."""
    used = (resource.getrusage(who) for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN))
    return sum(star.ru_utime + star.ru_stime for star in used)


def main() -> int:
    """Exit code 0 only when tests ran and none failed."""
    if "--mutants" in sys.argv:
        given = [name for name in sys.argv[1:] if name != "--mutants"]
        return subprocess.call([sys.executable, str(ROOT / "tools" / "mutants.py"), *given])
    arguments = [name for name in sys.argv[1:] if name != "--long"]
    if "--long" in sys.argv:
        os.environ[LONG] = "1"
    if arguments[:1] == ["--group"]:
        if not arguments[1].startswith(BROWSER):
            os.nice(BEHIND)
        passed, failed, skipped = run_here(arguments[1].split(BETWEEN))
    else:
        passed, failed, skipped = (
            run_here(matching(arguments)) if arguments else run_groups(groups())
        )
    if arguments[:1] == ["--group"]:
        print(f"{_processor_s():.1f}")
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return 0 if passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
