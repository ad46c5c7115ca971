"""The page with the current figures, written by `./oxlen bench --page`."""

from __future__ import annotations

import os
import platform
import re
from collections.abc import Iterable
from datetime import date
from pathlib import Path

from bench.harness.results import Result

PAGE = Path(__file__).parents[2] / "docs" / "PERFORMANCE.md"
HEAD = """# Performance

Written by `./oxlen bench --page [NAME...]`; figures of modules that are not named stay as they
were.
Times are multiples of a reference measured in turn with them, so that they mean the same on another
machine: decoding the file alone, a constant answer of the server, a page of fixed work in the
browser, a fixed loop in Python (*python*) or on arrays (*arrays*), all in
`bench/harness/reference.py`.
*Noisy* figures were taken while the machine was busy, and are not judged. Reasons for the bounds
are in `bench/BOUNDS.md`.

| figure | measured | ± | at most | | taken |
|---|---|---|---|---|---|
"""
ROW = re.compile(r"^\| `([^`]+)` \|.*$", re.M)


def page(results: Iterable[Result], before: str) -> str:
    """The page with new figures in place of those of the same name."""
    # A figure taken for several scenes or parts has a row for each.
    rows: dict[str, list[str]] = {}
    for found in ROW.finditer(before):
        rows.setdefault(found[1], []).append(found[0])
    fresh: dict[str, list[str]] = {}
    for result in results:
        fresh.setdefault(result.name, []).append(_row(result))
    rows |= fresh
    lines = [line for name in sorted(rows) for line in rows[name]]
    return HEAD + "\n".join(lines) + "\n"


def _row(result: Result) -> str:
    taken = f"{date.today().isoformat()}, {os.cpu_count()} × {platform.machine()}"
    if result.ratio is None or result.bound is None:
        return f"| `{result.name}` | failed | | | {result.note} | {taken} |"
    spread = "" if result.spread is None else f"{result.spread / 2:.0%}"
    judged = "" if result.state == "ok" else f"**{result.state}** "
    note = f"{judged}{result.note}".strip()
    return (
        f"| `{result.name}` | {result.ratio:.2f} | {spread} | {result.bound:g} | {note} | {taken} |"
    )
