"""Operators as functions: what Python, its help and editors see of them."""

from __future__ import annotations

import subprocess
import sys

import pytest

import reticula.core
from reticula.core import Geo, ops
from reticula.core.operators import OPERATORS


def test_all_are_there_by_name_and_a_misspelt_one_is_told() -> None:
    assert dir(ops) == sorted(OPERATORS)
    assert ops.extrude is OPERATORS["extrude"]
    assert reticula.core.ops is ops
    with pytest.raises(AttributeError, match="near it are extrude"):
        _ = ops.extrud
    assert not hasattr(ops, "__path__")
    with pytest.raises(AttributeError, match="nothing"):
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


def test_a_geometry_says_what_it_holds() -> None:
    assert repr(Geo.empty()) == "<Geo empty>"
    tile = ops.group(ops.grid(cells=(1, 1)), name="crest", kind="face", where="index == 0")
    assert repr(tile) == "<Geo 4 points, 1 face; corner: uv vec2; face: crest flag>"
