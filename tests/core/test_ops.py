"""Operators as functions: what Python, its help and editors see of them."""

from __future__ import annotations

import ast
import inspect
import subprocess
import sys
from pathlib import Path

import pytest

import reticula.core
from reticula.core import Geo, ops
from reticula.core.operators import OPERATORS
from reticula.core.operators.declaration.operator import Operator

STUBS = ast.parse((Path(reticula.core.__file__).parent / "ops.pyi").read_text("utf-8"))
STUB = {entry.name: entry for entry in STUBS.body if isinstance(entry, ast.FunctionDef)}


def test_all_are_there_by_name_and_a_misspelt_one_is_told() -> None:
    assert dir(ops) == sorted(OPERATORS)
    assert ops.extrude is OPERATORS["extrude"]
    assert reticula.core.ops is ops
    with pytest.raises(AttributeError, match="near it are extrude"):
        _ = ops.extrud
    assert not hasattr(ops, "__path__")
    with pytest.raises(AttributeError, match="reticula.core"):
        _ = reticula.core.nothing  # type: ignore[attr-defined]  # it is not there
    assert set(reticula.core.__all__) <= set(dir(reticula.core))


def test_importing_the_core_loads_nothing_and_declaring_loads_no_compiler() -> None:
    heavy = ["numba", "scipy.spatial", "scipy.sparse", "scipy.special", "cryptography", "jsonschema", "fontTools"]
    text = (
        "import sys, reticula.core\n"
        "assert 'numpy' not in sys.modules\n"
        "from reticula.core import ops\n"
        "assert ops.extrude.parameters\n"
        f"print([name for name in {heavy} if name in sys.modules])"
    )
    told = subprocess.run([sys.executable, "-c", text], capture_output=True, text=True, check=True)
    assert told.stdout.strip() == "[]"


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


def test_a_geometry_says_what_it_holds() -> None:
    assert repr(Geo.empty()) == "<Geo empty>"
    tile = ops.group(ops.grid(cells=(1, 1)), name="crest", kind="face", where="index == 0")
    assert repr(tile) == "<Geo 4 points, 1 face; corner: uv vec2; face: crest flag>"
