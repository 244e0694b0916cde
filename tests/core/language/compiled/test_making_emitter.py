"""Calls, and what programs make, in generated code."""

from tests.core.language.programs.checked import agreed, code_of


def test_what_is_made_goes_to_the_columns_of_its_kind() -> None:
    source = code_of("p = add_point(position)\nadd_curve([here, p])").source
    for column in ("pt_by", "pt_pos", "cv_by", "cv_points"):
        assert f"{column}[" in source
    assert "fc_by" not in source


def test_a_function_that_gives_a_list_gives_its_array_and_length() -> None:
    text = "def around(p):\n    return [n.cover for n in p.neighbours]\nhere.a = sum(around(here))"
    assert "_b, " in code_of(text).source
    agreed(text)


def test_calls_say_how_deep_they_are() -> None:
    assert "enter_call(depth" in code_of("def twice(x):\n    return x * 2\nhere.a = twice(cover)").source
