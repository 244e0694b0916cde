"""Every limit is a number above zero that says in words what it bounds, and is used somewhere."""

import ast
from pathlib import Path

import pytest

from reticula.core.language import limits

CORE = Path(limits.__file__).parents[1]


@pytest.mark.parametrize("name", limits.__all__)
def test_a_limit_is_used_where_it_is_declared_for(name: str) -> None:
    assert getattr(limits, name) > 0
    users = [path for path in CORE.rglob("*.py") if path.name != "limits.py" and name in path.read_text("utf-8")]
    assert users


def test_each_is_explained() -> None:
    body = ast.parse(Path(limits.__file__).read_text("utf-8")).body
    for at, node in enumerate(body):
        if isinstance(node, ast.Assign) and node.targets[0].id != "__all__":  # type: ignore[attr-defined]
            told = body[at + 1]
            assert isinstance(told, ast.Expr)
            assert isinstance(told.value, ast.Constant)
            assert isinstance(told.value.value, str)
