"""Run tests with one module's source replaced: 0 where all pass, as if nothing had changed.

`mutant_run.py MODULE SOURCE_FILE TEST...`: a process of its own for each change.
"""

from __future__ import annotations

import doctest
import importlib
import importlib.abc
import importlib.machinery
import importlib.util
import io
import sys
import unittest
from collections.abc import Sequence
from pathlib import Path
from types import ModuleType

ROOT = Path(__file__).resolve().parents[1]


class _Replaced(importlib.abc.MetaPathFinder, importlib.abc.SourceLoader):  # type: ignore[misc]
    """Finds one module in a file of its own; its examples are those of the original."""

    def __init__(self, module: str, source: Path) -> None:
        self.module, self.source = module, source

    def find_spec(
        self, fullname: str, _path: Sequence[str] | None, _target: ModuleType | None = None
    ) -> importlib.machinery.ModuleSpec | None:
        if fullname != self.module:
            return None
        return importlib.util.spec_from_loader(fullname, self, origin=str(self.source))

    def get_filename(self, _fullname: str) -> str:
        return str(self.source)

    def get_data(self, path: str) -> bytes:
        return Path(path).read_bytes()


def main() -> int:
    """Whether anything noticed the change."""
    module, source, *names = sys.argv[1:]
    sys.path[:0] = [str(ROOT), str(ROOT / "src")]
    sys.meta_path.insert(0, _Replaced(module, Path(source)))
    suite = unittest.TestSuite()
    suite.addTests(doctest.DocTestSuite(importlib.import_module(module)))
    for name in names:
        suite.addTests(unittest.defaultTestLoader.loadTestsFromName(name))
    result = unittest.TextTestRunner(stream=io.StringIO(), failfast=True).run(suite)
    return int(not result.wasSuccessful())


if __name__ == "__main__":
    sys.exit(main())
