"""Values of one element, as they are shown."""

from __future__ import annotations

import pytest

from reticula.core.language.live import live_formula
from reticula.core.language.scope import Scope
from tests.core.language.studio import reef, sheet


def shown(formula: str, element: int = 8, kind: str = "point") -> tuple[str, str]:
    live = live_formula(f"a = {formula}\n0", Scope(sheet(), kind, inputs={"geo": sheet(), "reef": reef()}), element)  # type: ignore[arg-type]
    place = next(place for place in live.block.seen if place[1] == 5 and place[2] == len(formula))
    seen = live.block.seen[place]
    return seen.text, seen.type


@pytest.mark.parametrize(
    ("formula", "text", "type"),
    [
        ("index", "8", "integer"),
        ("index > 3", "yes", "flag"),
        ("index / 3", "2.66667", "number"),
        ("-0.0 * 1", "0", "number"),
        ("vec2(1, 2.5)", "(1, 2.5)", "vec2"),
        ("here.neighbours", "[point 9, point 1, point 7, point 15]", "list of point"),
        ("here.neighbours.index", "[9, 1, 7, 15]", "list of integer"),
        (
            "[i for i in range(30)]",
            "[0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, … (30 in all)]",
            "list of integer",
        ),
        ("reef.nearest(position).kind", "'rock'", "text"),
        ("reef.ray((0, 9, 0), (0, 1, 0))", "nothing found", "place"),
    ],
)
def test_values_are_read_out(formula: str, text: str, type: str) -> None:
    found = shown(formula)
    assert (sorted(found[0]), found[1]) == (sorted(text), type)


def test_a_place_says_where_it_is() -> None:
    text, _ = shown("reef.closest(vec3(0, 5, 0))")
    assert text.endswith(" m away")
    assert "on face" in text
    text, _ = shown("reef.nearest(vec3(0, 5, 0))")
    assert "on point" in text
