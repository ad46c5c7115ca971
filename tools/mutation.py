"""Small changes to Python code that a test should notice: each a place in a function's body."""

from __future__ import annotations

import ast
import copy
from collections.abc import Callable, Iterator
from dataclasses import dataclass

COMPARED = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}
WORKED = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.Pow: ast.Mult,
    ast.BitAnd: ast.BitOr,
    ast.BitOr: ast.BitAnd,
}


@dataclass(frozen=True)
class Mutant:
    """A change: its line, what it does, and the whole module with it."""

    line: int
    words: str
    source: str


def mutants(source: str) -> Iterator[Mutant]:
    """Every change there is to the bodies of a module's functions, each alone."""
    tree = ast.parse(source)
    for place, node in enumerate(_inside_functions(tree)):
        for words, change in _changes(node):
            other = copy.deepcopy(tree)
            changed = list(_inside_functions(other))[place]
            change(changed)
            ast.fix_missing_locations(other)
            yield Mutant(node.lineno, words, ast.unparse(other))


def _inside_functions(tree: ast.Module) -> list[ast.expr | ast.stmt]:
    """Expressions and statements of function bodies, without docstrings and annotations."""
    found: list[ast.expr | ast.stmt] = []

    def walk(node: ast.AST, *, is_inside: bool) -> None:
        if is_inside and isinstance(node, ast.expr | ast.stmt):
            found.append(node)
        is_function = isinstance(node, ast.FunctionDef)
        for name, value in ast.iter_fields(node):
            if name in ("annotation", "returns", "decorator_list", "args", "type_params"):
                continue
            for child in value if isinstance(value, list) else [value]:
                if isinstance(child, ast.AST) and not _is_text(child):
                    walk(child, is_inside=is_inside or is_function)

    walk(tree, is_inside=False)
    return found


def _is_text(node: ast.AST) -> bool:
    """Docstrings, and messages of errors, which nobody should have to repeat in a test."""
    if isinstance(node, ast.Raise):
        return True
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)


Change = Callable[[ast.AST], None]


def _changes(node: ast.expr | ast.stmt) -> Iterator[tuple[str, Change]]:
    """What may be changed at a node, in words and as something done to its copy."""
    if isinstance(node, ast.Compare) and type(node.ops[0]) in COMPARED:
        yield "another comparison", _compare
    elif isinstance(node, ast.BinOp) and type(node.op) in WORKED:
        yield "another operation", _work
    elif isinstance(node, ast.BoolOp):
        yield "and for or, or for and", _swap
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield "not left out", _unnot
    elif isinstance(node, ast.Constant) and type(node.value) in (int, float):
        yield "another number", _number
    elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
        yield "the other truth", _truth
    elif isinstance(node, ast.Return) and node.value is not None and not _is_none(node.value):
        yield "nothing given back", _nothing


def _is_none(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and node.value is None


def _compare(node: ast.AST) -> None:
    assert isinstance(node, ast.Compare)
    node.ops[0] = COMPARED[type(node.ops[0])]()


def _work(node: ast.AST) -> None:
    assert isinstance(node, ast.BinOp)
    node.op = WORKED[type(node.op)]()


def _swap(node: ast.AST) -> None:
    assert isinstance(node, ast.BoolOp)
    node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()


def _unnot(node: ast.AST) -> None:
    assert isinstance(node, ast.UnaryOp)
    node.op, node.operand = ast.Not(), ast.UnaryOp(ast.Not(), node.operand)


def _number(node: ast.AST) -> None:
    assert isinstance(node, ast.Constant)
    value = node.value
    assert isinstance(value, int | float)
    node.value = value + 1 if isinstance(value, int) else value * 1.5 + 0.1


def _truth(node: ast.AST) -> None:
    assert isinstance(node, ast.Constant)
    node.value = not node.value


def _nothing(node: ast.AST) -> None:
    assert isinstance(node, ast.Return)
    node.value = ast.Constant(None)
