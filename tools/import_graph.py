"""Who imports whom when it runs: circles, and imports of a package against its order.

`python tools/import_graph.py [PACKAGE]`, as `oxlen.core.decisions`; `web` for the front end.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator, Mapping
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SOURCE, WEB = ROOT / "src", ROOT / "web" / "src"
Graph = Mapping[str, set[str]]


def graph() -> Graph:
    """Modules of oxlen, and the modules each imports at run time as it is loaded."""
    paths = {
        ".".join(path.relative_to(SOURCE).with_suffix("").parts).removesuffix(".__init__"): path
        for path in SOURCE.rglob("*.py")
    }
    return {name: _imported(path, set(paths)) - {name} for name, path in paths.items()}


def _imported(path: Path, known: set[str]) -> set[str]:
    found: set[str] = set()
    for node in _run_at_load(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            found |= {name.name for name in node.names}
        elif node.module:
            # `from package import module` runs both.
            inner = {f"{node.module}.{name.name}" for name in node.names}
            found |= {node.module, *inner}
    return found & known


def _run_at_load(tree: ast.AST) -> Iterator[ast.Import | ast.ImportFrom]:
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.Import | ast.ImportFrom):
            yield node
        elif isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef) or _is_for_types(node):
            continue
        else:
            yield from _run_at_load(node)


def _is_for_types(node: ast.AST) -> bool:
    return isinstance(node, ast.If) and "TYPE_CHECKING" in ast.unparse(node.test)


def circles(modules: Graph) -> list[list[str]]:
    """Groups of modules each of which reaches every other (Tarjan), the largest first."""
    order: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    found: list[list[str]] = []

    def visit(name: str) -> None:
        order[name] = low[name] = len(order)
        stack.append(name)
        for other in sorted(modules[name]):
            if other not in order:
                visit(other)
            if other in stack:
                low[name] = min(low[name], low[other])
        if low[name] == order[name]:
            at = stack.index(name)
            group = stack[at:]
            del stack[at:]
            if len(group) > 1:
                found.append(sorted(group))

    sys.setrecursionlimit(10_000)
    for name in sorted(modules):
        if name not in order:
            visit(name)
    return sorted(found, key=len, reverse=True)


WEB_ORDER = ("ui", "offline", "api", "phone", "shell", "features", "app")
"""Folders of the front end: each may import those before it."""


def upward_in_web() -> list[str]:
    """Imports of the front end from a folder that comes later in the order."""
    found = []
    for path in sorted(WEB.rglob("*.ts*")):
        own = path.relative_to(WEB).parts[0]
        for target in re.findall(r'from "(\.[^"]+)"', path.read_text("utf-8")):
            parts = (path.parent / target).resolve().relative_to(WEB).parts
            both = (own, parts[0])
            if all(module in WEB_ORDER for module in both) and WEB_ORDER.index(
                own
            ) < WEB_ORDER.index(parts[0]):
                found.append(f"{path.relative_to(WEB)} imports {'/'.join(parts)}")
    return found


def main() -> int:
    """Print them; 1 where there are any."""
    if sys.argv[1:] == ["web"]:
        lines = upward_in_web()
    else:
        within = sys.argv[1] if sys.argv[1:] else "oxlen"
        modules = {
            name: {module for module in imported if module.startswith(within)}
            for name, imported in graph().items()
            if name.startswith(within)
        }
        lines = [f"{len(circle)}: {', '.join(circle)}" for circle in circles(modules)]
    print("\n".join(lines) or "none")
    return int(bool(lines))


if __name__ == "__main__":
    sys.exit(main())
