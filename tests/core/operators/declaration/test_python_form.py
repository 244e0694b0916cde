"""An operator as Python sees it: signature, docstring, stubs."""

from __future__ import annotations

import ast
import inspect
from pathlib import Path

import pytest

import reticula.core
from reticula.core import ops
from reticula.core.operators import OPERATORS
from reticula.core.operators.declaration.operator import Operator

STUBS = ast.parse((Path(reticula.core.__file__).parent / "ops.pyi").read_text("utf-8"))
STUB = {entry.name: entry for entry in STUBS.body if isinstance(entry, ast.FunctionDef)}


def test_a_signature_says_what_a_call_takes() -> None:
    takes = inspect.signature(ops.extrude).parameters
    assert takes["geo"].kind is inspect.Parameter.POSITIONAL_OR_KEYWORD
    assert takes["distance"].kind is inspect.Parameter.KEYWORD_ONLY
    assert (takes["distance"].default, takes["distance"].annotation) == ("0.06 * extent", "float | str")
    assert takes["what"].annotation == "Literal['face', 'edge', 'point']"
    assert takes["together"].annotation == "bool"
    assert inspect.signature(ops.slice).return_annotation == "tuple[Geo, Geo]"
    assert str(inspect.signature(ops.join)).startswith("(*geometries: Geo | Sequence[Geo]")
    assert inspect.signature(Operator).parameters["family"]


@pytest.mark.parametrize("name", sorted(OPERATORS))
def test_defaults_are_what_a_call_takes(name: str) -> None:
    entry = OPERATORS[name]
    takes = inspect.signature(entry).parameters
    given = {n: one.default for n, one in takes.items() if one.kind is inspect.Parameter.KEYWORD_ONLY}
    assert entry.check(given) == entry.check({})
    stub = STUB[name].args
    assert [one.arg for one in stub.kwonlyargs] == list(given)
    assert ast.literal_eval(ast.Tuple([one for one in stub.kw_defaults if one], ast.Load())) == tuple(given.values())


def test_docstrings_have_the_numpydoc_sections() -> None:
    text = ops.extrude.__doc__ or ""
    assert text.startswith("Raise faces")
    parts = [part for part in ("Parameters", "Returns", "Raises", "Notes") if f"\n{part}\n{'-' * len(part)}\n" in text]
    assert parts == ["Parameters", "Returns", "Raises", "Notes"]
    assert "distance : float | str, m, default: '0.06 * extent'\n    How far; negative goes inwards.\n" in text
    assert "``'smallest'``: all stop at the smallest such inset." in text
    assert "Matters where ``along`` is 'direction'." in text
    assert max(map(len, text.splitlines())) <= 120
    assert (Operator.__doc__ or "").startswith("An operator:")
    assert (ops.extrude.__name__, Operator.__name__) == ("extrude", "Operator")
    assert repr(ops.join) == "ops.join(*geometries: Geo | Sequence[Geo]) -> Geo"
