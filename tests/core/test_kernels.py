"""How compiled routines are written: few arguments, named results, nothing longer than a screen."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import pytest

CORE = Path(__file__).resolve().parents[2] / "reticula" / "core"
COMPILED = {"kernel", "parallel_kernel", "inline", "inline_making"}
MOST_ARGUMENTS, MOST_RESULTS, MOST_LINES = 6, 3, 80


def routines() -> Iterator[tuple[str, ast.FunctionDef]]:
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.FunctionDef) and COMPILED & {ast.unparse(one) for one in node.decorator_list}:
                yield f"{path.relative_to(CORE)}::{node.name}", node


@pytest.mark.parametrize(("name", "node"), list(routines()), ids=lambda value: value if isinstance(value, str) else "")
def test_compiled_routines_can_be_called_without_counting(name: str, node: ast.FunctionDef) -> None:
    assert len(node.args.args) + len(node.args.kwonlyargs) <= MOST_ARGUMENTS
    assert (node.end_lineno or 0) - node.lineno < MOST_LINES
    returns = node.returns
    if isinstance(returns, ast.Subscript) and isinstance(returns.slice, ast.Tuple):
        named = any(isinstance(part, ast.Constant) for part in returns.slice.elts)
        assert named or len(returns.slice.elts) <= MOST_RESULTS
