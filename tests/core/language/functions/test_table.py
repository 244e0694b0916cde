"""How types of arguments are found, and that every entry of the table is whole."""

import pytest

from reticula.core.language.functions.table import FUNCTIONS, OPERATORS, componentwise, exactly, over_vectors
from reticula.core.language.types import FLAG, INTEGER, NUMBER, TEXT, VEC3, VEC4
from tests.core.language.programs.checked import named, named_all


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
def test_component_by_component(types: tuple[str, ...], found: tuple[tuple[str, ...], str] | None) -> None:
    resolved = componentwise(2, integers=True)(named_all(*types))
    assert resolved == (found and (named_all(*found[0]), named(found[1])))


def test_exact_forms_take_an_integer_for_a_number() -> None:
    resolve = exactly((("number", "flag"), "text"), (("vec3", "flag"), "number"))
    assert resolve((INTEGER, FLAG)) == ((NUMBER, FLAG), TEXT)
    assert resolve((VEC3, FLAG)) == ((VEC3, FLAG), NUMBER)
    assert resolve((FLAG, NUMBER)) is None


def test_vectors_of_one_size() -> None:
    assert over_vectors(2, "number")((VEC3, VEC3)) == ((VEC3, VEC3), NUMBER)
    assert over_vectors(2, None)((VEC4, VEC4)) == ((VEC4, VEC4), VEC4)
    assert over_vectors(2, None)((VEC4, VEC3)) is None


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
