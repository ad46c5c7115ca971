"""Run every test and close with one line: N passed, N failed, N skipped.

Arguments narrow it to modules or folders: `./oxlen test tests.core tests.store`.
"""

from __future__ import annotations

import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))


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


def main() -> int:
    """Exit code 0 only when tests ran and none failed."""
    result = unittest.TextTestRunner(verbosity=1, buffer=False).run(find_tests(sys.argv[1:]))
    # One test may fail in several of its rows; it still counts once.
    failed = {test.id().split(" ")[0] for test, _ in (*result.failures, *result.errors)}
    failed |= {test.id() for test in result.unexpectedSuccesses}
    passed = max(0, result.testsRun - len(failed) - len(result.skipped))
    print(f"{passed} passed, {len(failed)} failed, {len(result.skipped)} skipped", flush=True)
    return 0 if result.testsRun and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
