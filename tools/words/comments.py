"""Comments and docstrings of Python and TypeScript, for the test of their words."""

import ast
import io
import re
import tokenize
from collections.abc import Iterator
from pathlib import Path

SCRIPT_COMMENT = re.compile(r"/\*.*?\*/|(?<!:)//[^\n]*", re.DOTALL)


def comments(path: Path) -> Iterator[str]:
    """Each comment and docstring of a file; also strings that document a constant or a field."""
    text = path.read_text("utf-8")
    if path.suffix != ".py":
        yield from SCRIPT_COMMENT.findall(text)
        return
    for token in tokenize.generate_tokens(io.StringIO(text).readline):
        if token.type == tokenize.COMMENT:
            yield token.string
    for node in ast.walk(ast.parse(text)):
        match node:
            case ast.Expr(value=ast.Constant(value=str(stated))):
                yield stated
