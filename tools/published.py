"""Write what is published from the code: API description, schemas, tables of routes and formulas.

Run after a change to any of them: `PYTHONPATH=src .venv/bin/python tools/published.py`.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path

from oxlen.core.compute.registry import COMPUTATIONS
from oxlen.formats.schemas import SCHEMAS
from oxlen.server.openapi import openapi_text

ROOT = Path(__file__).resolve().parents[1]
FORMULAS_HEAD = """# Formulas

Every number on screen can be opened to the entry below that worked it, and every entry can be
worked from the command line: `./oxlen compute ID '{"input": value}'`.
"""
API_HEAD = """# The API

Local only: it answers on loopback, under the names 127.0.0.1, localhost and ::1, and only to its
own pages. Every refusal is `application/problem+json` with `detail` (a sentence), `code` and, where
one is to blame, `field`. The whole description, with every field and examples, is at
`/api/openapi.json`.

| method | path | what it does |
|---|---|---|
"""
API_TAIL = """
Pictures are sent as the body of the request itself (`application/octet-stream`, name in `?name=`),
streamed to disk and refused past 200 MB. An edit of a sheet carries the `version` it was made from;
an edit from an older version is refused with 409 and nothing is overwritten.
"""


def main() -> None:
    """Write them all."""
    description = openapi_text()
    write("web/src/api/openapi.json", description)
    for name, model in SCHEMAS.items():
        schema = json.dumps(model.model_json_schema(), indent=2, ensure_ascii=False)
        write(f"docs/schemas/{name}.schema.json", schema + "\n")
    write("docs/FORMULAS.md", FORMULAS_HEAD + "".join(map(formula, COMPUTATIONS)))
    rows = [
        f"| {method.upper()} | `{path}` | {route['description'].splitlines()[0]} |\n"
        for path, methods in json.loads(description)["paths"].items()
        for method, route in methods.items()
    ]
    write("docs/API.md", API_HEAD + "".join(rows) + API_TAIL)


def formula(entry_id: str) -> str:
    """One formula as a section."""
    entry = COMPUTATIONS[entry_id]
    return (
        f"\n## `{entry.id}`\n\n{entry.title}.\n\n- formula: {entry.formula}\n"
        f"- takes: {named(entry.inputs)}\n- gives: {named(entry.outputs)}\n"
        f"- source: {entry.source}\n"
    )


def named(units: Mapping[str, str]) -> str:
    """Names with their units."""
    return ", ".join(f"`{name}` ({unit})" for name, unit in units.items())


def write(name: str, text: str) -> None:
    """Write a file of the project."""
    (ROOT / name).write_text(text, "utf-8")


if __name__ == "__main__":
    main()
