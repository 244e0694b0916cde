"""Values of dials put where parameters and formulas name them."""

import pytest

from reticula.core.graph.nesting.binding import close_formula, is_bound, substitute_dials


@pytest.mark.parametrize("value", [3, "dial", {"dial": 3}, {"dial": "a", "more": 1}, {"formula": "a"}, None])
def test_only_a_dial_by_name_is_bound(value: object) -> None:
    assert not is_bound(value)
    assert is_bound({"dial": "a"})


def test_bound_parameters_and_controls_get_the_value_as_it_is() -> None:
    stored = {"size": {"dial": "a"}, "controls": {"reach": {"dial": "b"}, "sway": 1}, "levels": 2}
    made = substitute_dials(stored, {"a": {"formula": "index"}, "b": 0.5})
    assert made == {"size": {"formula": "index"}, "controls": {"reach": 0.5, "sway": 1}, "levels": 2}
    assert stored["controls"] == {"reach": {"dial": "b"}, "sway": 1}, "what is stored stays"


def test_outer_values_stand_in_a_closed_formula() -> None:
    closed = close_formula(
        "k = rise * 2\nk + box.size.x + index", {"rise": 0.5, "way": [1, 2, 3]}, {"box": {"size": [4, 5]}}
    )
    assert closed == "k = 0.5 * 2\nk + vec2(4, 5).x + index"
    assert close_formula("way.y", {"way": [1, 2, 3]}, {}) == "vec3(1, 2, 3).y"


def test_a_name_that_the_text_writes_itself_is_its_own() -> None:
    assert close_formula("rise = 3\nrise", {"rise": 0.5}, {}) == "rise = 3\nrise"
