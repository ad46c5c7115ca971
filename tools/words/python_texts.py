"""Strings of the Python side that a person reads: file, line, kind and text."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
SOURCE = ROOT / "src" / "oxlen"
SKIPPED = ("store/schema", "data/", "core/errors.py")
UNSEEN_CALLS = {
    "compile",
    "execute",
    "getLogger",
    "encode",
    "open",
    "glob",
    "Path",
    "connect",
    "get",
    "router",
}
WORDS = re.compile(r"[A-Za-z{}]\S* +\S*[A-Za-z{}]")
NAME = re.compile(r"[A-Z][a-z]+[.:]?$")
CODE = re.compile(r"[<>=;]|SELECT |UPDATE |INSERT |DELETE |CREATE |PRAGMA |--|%\(|\\|^/|^\.|://")


@dataclass(frozen=True)
class Text:
    """A string with its place and its purpose; `{}` marks what is filled in."""

    file: str
    line: int
    kind: str
    text: str


def texts() -> Iterator[Text]:
    """Every string that may be read by a person, in the order of the files."""
    for path in sorted(SOURCE.rglob("*.py")):
        file = path.relative_to(ROOT).as_posix()
        if any(part in file for part in SKIPPED):
            continue
        yield from _of_file(file, ast.parse(path.read_text("utf-8")))


def _of_file(file: str, tree: ast.Module) -> Iterator[Text]:
    parents = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            text = _joined(node)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            if isinstance(parents[node], ast.Expr | ast.JoinedStr | ast.FormattedValue):
                continue
            text = node.value
        else:
            continue
        kind = _kind(node, parents, file)
        words = " ".join(text.split())
        if kind and _is_read(words, kind):
            yield Text(file, node.lineno, kind, words)


def _joined(node: ast.JoinedStr) -> str:
    return "".join(
        str(part.value) if isinstance(part, ast.Constant) else "{}" for part in node.values
    )


def _is_read(text: str, kind: str) -> bool:
    if CODE.search(text) and not text.endswith("."):
        return False
    return bool(WORDS.search(text)) or (kind == "label" and bool(NAME.fullmatch(text)))


def _kind(node: ast.AST, parents: dict[ast.AST, ast.AST], file: str) -> str:
    """What it is for; "" where nobody reads it."""
    at: ast.AST = node
    while at in parents:
        below, at = at, parents[at]
        if isinstance(at, ast.Raise):
            return "error"
        if isinstance(at, ast.keyword):
            if at.arg == "help":
                return "help"
            if at.arg == "description":
                return "schema"
            if at.arg in ("label", "name", "title", "text"):
                return "label"
        if isinstance(at, ast.Call):
            name = (
                at.func.attr if isinstance(at.func, ast.Attribute) else getattr(at.func, "id", "")
            )
            if name in UNSEEN_CALLS and below is not at.func:
                return ""
            if name in ("Quantity", "Choices", "Ask"):
                return "label"
            if name == "add_argument":
                return "help"
        if isinstance(at, ast.arguments | ast.AnnAssign | ast.Compare | ast.Subscript):
            if isinstance(at, ast.AnnAssign) and below is at.value:
                continue
            return "" if not isinstance(at, ast.AnnAssign) else "label"
        if isinstance(at, ast.FunctionDef | ast.ClassDef):
            break
    return "help" if "/cli/" in file else "schema" if "/formats/" in file else "text"
