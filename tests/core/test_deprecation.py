"""What goes is said where it is used, and goes no earlier than two minor releases later."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest

from reticula import __version__
from reticula.core import Geo, ops
from reticula.core.deprecation import Deprecation
from reticula.core.diagnostics import collecting
from reticula.core.operators import OPERATORS, operator

GOING = Deprecation("the operator 'wobble'", "'transform'", "0.4")


@pytest.fixture
def wobble() -> Any:
    @operator("wobble", family="spaces", parameters=(), carries="All.", deprecated=GOING)
    def body(geo: Geo) -> Geo:
        """Do nothing."""
        return geo

    yield OPERATORS["wobble"]
    del OPERATORS["wobble"]


def test_a_deprecated_operator_works_and_says_what_to_use(wobble: Any) -> None:
    box = ops.box()
    with pytest.warns(DeprecationWarning, match="use 'transform' instead; it goes in 0.4") as told:
        assert wobble(box) is box
    assert told[0].filename == __file__
    with collecting() as notes:
        wobble(box)
    assert [(one.level, one.text) for one in notes] == [("warning", GOING.text)]
    assert wobble.description.startswith(GOING.text)


def test_nothing_deprecated_is_overdue() -> None:
    page = (Path(__file__).parents[2] / "docs" / "stability.md").read_text()
    listed = re.findall(r"\| (\d+)\.(\d+) \|$", page, re.MULTILINE)
    assert listed
    now = tuple(map(int, __version__.split(".")[:2]))
    assert all((int(major), int(minor)) > now for major, minor in listed)
