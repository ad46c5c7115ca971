"""A sample of small changes to the core, each tried against the tests that run its line.

`./oxlen test --mutants [COUNT] [SEED]`: at least 85 of 100 must be noticed; the others are listed.
Which test runs which line is measured first, by one run of the tests.
"""

from __future__ import annotations

import argparse
import importlib
import io
import json
import multiprocessing
import os
import random
import subprocess
import sys
import tempfile
import time
import unittest
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

import coverage

ROOT = Path(__file__).resolve().parents[1]
CORE, TESTS = ROOT / "src" / "oxlen" / "core", ROOT / "tests"
FOLDERS = (
    *("core", "devices", "expert", "formats", "hours", "metering", "pictures", "preview"),
    *("recorded", "stacking", "takes", "views"),
)
"""Tests that use the core in their own process; those of server and browser ask a worker."""
COUNT, SEED, LEAST_SHARE = 300, 1, 0.85
MOST_TESTS, MOST_S, LIMIT_S = 60, 60.0, 180.0
"""Tests tried on one change, quickest first, and how long they may take."""
WIDE, MOST_WIDE = "tests.recorded", 8
"""Recorded answers run much of the core: some of them are tried after the quick ones."""
RUN_ONE = Path(__file__).with_name("mutant_run.py")


@dataclass(frozen=True)
class Tried:
    """A change and the result."""

    path: str
    line: int
    words: str
    state: str


@dataclass(frozen=True)
class Covered:
    """Which tests run which line of which file, and how long each test takes."""

    lines: Mapping[str, Mapping[int, Sequence[str]]]
    times: Mapping[str, float]

    def tests_of(self, path: Path, line: int) -> list[str]:
        """Tests that run a line, the quickest first, as many as there is time for."""
        inside = self.lines.get(str(path), {})
        # What runs as a module is loaded belongs to no test: those that use the module are tried.
        running = inside.get(line) or {test for tests in inside.values() for test in tests}
        known = sorted({item for item in running if item in self.times}, key=self.times.__getitem__)
        wide = [item for item in known if item.startswith(WIDE)]
        quick = [item for item in known if not item.startswith(WIDE)]
        chosen, spent = [], 0.0
        for item in [*quick[:MOST_TESTS], *wide[:MOST_WIDE]]:
            spent += self.times[item]
            if spent > MOST_S:
                break
            chosen.append(item)
        return chosen


def covered() -> Covered:
    """What one run of the core's tests shows."""
    modules = sorted(
        f"tests.{folder}.{path.stem}"
        for folder in FOLDERS
        for path in (TESTS / folder).glob("test_*.py")
    )
    parts = [modules[part :: os.cpu_count() or 2] for part in range(os.cpu_count() or 2)]
    with tempfile.TemporaryDirectory() as folder:
        names = [Path(folder) / f"part-{part}" for part in range(len(parts))]
        spawn = multiprocessing.get_context("spawn")
        running = [
            spawn.Process(target=_measure, args=(part, str(name)))
            for part, name in zip(parts, names, strict=True)
        ]
        for process in running:
            process.start()
        for process in running:
            process.join()
        return _read(names)


def _measure(modules: Sequence[str], name: str) -> None:
    """Run test modules, and write which test ran which line, and its time."""
    sys.path.insert(0, str(ROOT))
    measured = coverage.Coverage(data_file=name, source=[str(CORE)], config_file=False)
    measured.start()
    suite = unittest.defaultTestLoader.loadTestsFromNames(modules)
    _Timed.switch_context = measured.switch_context
    result = unittest.TextTestRunner(stream=io.StringIO(), resultclass=_Timed).run(suite)
    assert isinstance(result, _Timed)
    measured.stop()
    measured.save()
    Path(f"{name}.json").write_text(json.dumps(result.times), "utf-8")


class _Timed(unittest.TextTestResult):
    """Keeps how long each test took, and says which one runs now, by its id."""

    switch_context: ClassVar[Callable[[str], object]]

    def __init__(self, *given: object, **named: object) -> None:
        super().__init__(*given, **named)  # type: ignore[arg-type]
        self.times: dict[str, float] = {}
        self._begun = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        self._begun = time.perf_counter()
        _Timed.switch_context(test.id())
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        self.times[test.id()] = time.perf_counter() - self._begun
        super().stopTest(test)


def _read(names: Sequence[Path]) -> Covered:
    lines: dict[str, dict[int, list[str]]] = {}
    times: dict[str, float] = {}
    for name in names:
        times |= json.loads(Path(f"{name}.json").read_text("utf-8"))
        data = coverage.CoverageData(basename=str(name))
        data.read()
        for path in data.measured_files():
            by_line = lines.setdefault(path, {})
            for line, contexts in data.contexts_by_lineno(path).items():
                by_line.setdefault(line, []).extend(context for context in contexts if context)
    return Covered(lines, times)


def sample(count: int, seed: int) -> Iterator[tuple[Path, int]]:
    """Files of the core and the place of a change in each, drawn evenly from all changes."""
    mutants = importlib.import_module("tools.mutation").mutants
    every = [
        (path, place)
        for path in sorted(CORE.rglob("*.py"))
        for place, _ in enumerate(mutants(path.read_text("utf-8")))
    ]
    yield from random.Random(seed).sample(every, min(count, len(every)))


def tried(path: Path, place: int, known: Covered) -> Tried:
    """One change, compared with the tests that run its line and its module's own examples."""
    mutants = importlib.import_module("tools.mutation").mutants
    mutant = list(mutants(path.read_text("utf-8")))[place]
    chosen = known.tests_of(path, mutant.line)
    module = ".".join(path.relative_to(ROOT / "src").with_suffix("").parts)
    name = str(path.relative_to(CORE))
    with tempfile.NamedTemporaryFile("w", suffix=".py", encoding="utf-8") as changed:
        changed.write(mutant.source)
        changed.flush()
        command = [sys.executable, str(RUN_ONE), module, changed.name, *chosen]
        try:
            done = subprocess.run(
                command, cwd=ROOT, capture_output=True, timeout=LIMIT_S, check=False
            )
            state = "survived" if done.returncode == 0 else "noticed"
        except subprocess.TimeoutExpired:
            state = "noticed"
    if state == "survived" and not chosen:
        state = "run by no test"
    return Tried(name, mutant.line, mutant.words, state)


def main() -> int:
    """Print what was not noticed, and the share that was; 1 where it is too small."""
    sys.path.insert(0, str(ROOT))
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("count", nargs="?", type=int, default=COUNT)
    parser.add_argument("seed", nargs="?", type=int, default=SEED)
    asked = parser.parse_args()
    known = covered()
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        jobs = [
            pool.submit(tried, path, place, known)
            for path, place in sample(asked.count, asked.seed)
        ]
        found = [job.result() for job in jobs]
    missed = sorted(
        (mutant for mutant in found if mutant.state != "noticed"), key=lambda mutant: mutant.path
    )
    for mutant in missed:
        print(f"{mutant.state:15} {mutant.path}:{mutant.line}  {mutant.words}")
    noticed = len(found) - len(missed)
    share = noticed / max(1, len(found))
    print(f"{noticed} noticed of {len(found)} ({share:.0%}), seed {asked.seed}")
    return int(noticed < LEAST_SHARE * len(found))


if __name__ == "__main__":
    sys.exit(main())
