"""Names by pattern: which fit, in which order, and what is said where none does."""

import pytest

from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.operators.shared.name_patterns import matching

NAMES = ["heat", "height", "band", "uv"]


@pytest.mark.parametrize(
    ("patterns", "found"),
    [
        ("uv", ["uv"]),
        ("he*", ["heat", "height"]),
        ("uv, he*", ["uv", "heat", "height"]),
        ("*t heat", ["heat", "height"]),
        ("*", NAMES),
        ("", []),
    ],
)
def test_each_name_once_in_the_order_of_the_patterns(patterns: str, found: list[str]) -> None:
    assert matching("names", patterns, NAMES, "sheet") == found


def test_what_fits_none_names_what_is_near() -> None:
    with pytest.raises(ParameterError, match=r"no attribute 'hieght' on the sheet; did you mean height.*it has band"):
        matching("names", "hieght", NAMES, "sheet")


def test_a_star_alone_only_warns(notes: list[Note]) -> None:
    assert matching("names", "*", [], "sheet") == []
    assert notes[0].level == "warning"
    with pytest.raises(ParameterError, match="it has none"):
        matching("names", "h*", [], "sheet")
