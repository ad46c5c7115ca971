"""The recorded answers: `--anew` records them, `--against REV` prints what differs from a revision.

`--write FOLDER` writes every section as text, for both of them.
"""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]


def write(folder: Path) -> None:
    """Every section of every answer as a file of its own."""
    from tests.recorded.answers import KINDS, text

    for kind, (seeds, sections) in KINDS.items():
        for seed in seeds:
            place = folder / f"{kind}-{seed:03d}"
            place.mkdir(parents=True)
            for name, section in sections(seed).items():
                (place / f"{name}.json").write_text(text(section) + "\n", "utf-8")


def record() -> int:
    """Record the answers as they are; how many sections changed."""
    from tests.recorded.answers import KINDS, RECORD, digests

    before = json.loads(RECORD.read_text("utf-8")) if RECORD.exists() else {}
    now = {
        f"{kind} {seed}": digests(kind, seed)
        for kind, (seeds, _) in KINDS.items()
        for seed in seeds
    }
    RECORD.write_text(json.dumps(now, indent=1) + "\n", "utf-8")
    return sum(
        before.get(answer, {}).get(name) != digest
        for answer, sections in now.items()
        for name, digest in sections.items()
    )


def against(revision: str) -> int:
    """Print what differs from the answers of a revision; 1 where anything does."""
    with tempfile.TemporaryDirectory() as name:
        then, old, new = (Path(name) / part for part in ("then", "old", "new"))
        subprocess.run(["git", "worktree", "add", "-q", then, revision], check=True, cwd=ROOT)
        try:
            for root, folder in ((then, old), (ROOT, new)):
                tool = str(root / "tools" / "recorded.py")
                command = [sys.executable, tool, "--write", str(folder)]
                subprocess.run(command, check=True, env={**os.environ, "PYTHONPATH": ""})
        finally:
            subprocess.run(["git", "worktree", "remove", "--force", then], check=True, cwd=ROOT)
        return subprocess.run(["diff", "-r", "-U2", "old", "new"], check=False, cwd=name).returncode


def main() -> int:
    """What is asked for."""
    parser = argparse.ArgumentParser(description=__doc__)
    asked = parser.add_mutually_exclusive_group(required=True)
    asked.add_argument("--anew", action="store_true", help="record the answers as they are")
    asked.add_argument("--against", metavar="REV", help="print what differs from a revision")
    asked.add_argument("--write", metavar="FOLDER", type=Path, help="write all as text")
    given = parser.parse_args()
    if given.anew:
        print(f"{record()} sections changed")
        return 0
    if given.against:
        return against(given.against)
    write(given.write)
    return 0


if __name__ == "__main__":
    sys.exit(main())
