"""How types of arguments are found, and that every entry of the table is whole."""

import pytest

from reticula.core.language.functions.table import FUNCTIONS, OPERATORS, componentwise, exactly, over_vectors


@pytest.mark.parametrize(
    ("types", "found"),
    [
        (("number", "number"), (("number", "number"), "number")),
        (("integer", "number"), (("number", "number"), "number")),
        (("integer", "integer"), (("integer", "integer"), "integer")),
        (("vec3", "number"), (("vec3", "number"), "vec3")),
        (("integer", "vec2"), (("number", "vec2"), "vec2")),
        (("vec2", "vec3"), None),
        (("flag", "number"), None),
        (("number",), None),
    ],
)
def test_component_by_component(types: tuple[str, ...], found: object) -> None:
    assert componentwise(2, integers=True)(types) == found


def test_exact_forms_take_an_integer_for_a_number() -> None:
    resolve = exactly((("number", "flag"), "text"), (("vec3", "flag"), "number"))
    assert resolve(("integer", "flag")) == (("number", "flag"), "text")
    assert resolve(("vec3", "flag")) == (("vec3", "flag"), "number")
    assert resolve(("flag", "number")) is None


def test_vectors_of_one_size() -> None:
    assert over_vectors(2, "number")(("vec2", "vec2")) == (("vec2", "vec2"), "number")
    assert over_vectors(2, None)(("vec4", "vec4")) == (("vec4", "vec4"), "vec4")
    assert over_vectors(2, None)(("vec4", "vec3")) is None


@pytest.mark.parametrize("name", FUNCTIONS)
def test_every_function_is_whole(name: str) -> None:
    entry = FUNCTIONS[name]
    assert entry.usage.startswith(f"{name}(")
    assert entry.summary
    assert entry.summary[0].islower() or entry.summary[0].isdigit() or entry.summary[0] == "-"
    assert entry.example
    assert name in entry.example


def test_symbols_and_functions_are_apart() -> None:
    assert not set(FUNCTIONS) & set(OPERATORS)
