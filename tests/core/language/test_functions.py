"""Every function and symbol, for every combination of types that it takes: compiled code does what NumPy does."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.diagnostics import collecting
from reticula.core.language.functions import FUNCTIONS, OPERATORS, Function
from reticula.core.language.script import run_script
from tests.core.language.programs.checked import named_all
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import sheet

TYPES = {
    "number": ("near", "far"),
    "integer": ("whole", "other"),
    "flag": ("yes", "no"),
    "vec2": ("pair", "pair.yx"),
    "vec3": ("place", "place.zxy"),
    "vec4": ("four", "four.wzyx"),
    "mat3": ("turned", "turned"),
    "mat4": ("moved", "moved"),
    "text": ("word", "term"),
}
"""Attributes of the test geometry: the first of each type, and another one."""
INSIDE = {"asin", "acos", "atanh"}
ABOVE_ONE = {"acosh"}
DIVIDING = {"/", "//", "%", "mod", "smoothstep"}
"""Functions that are not defined where an integer is 0, or two are the same."""
POSITIVE = {"sqrt", "log", "log2", "log10", "log1p", "inversesqrt", "**", "pow"}


def studio(name: str) -> Geo:
    """The sheet with attributes of every type, within what a function is defined for."""
    rng = np.random.default_rng(11)
    count = 49
    low, high = (0.1, 0.9) if name in INSIDE else (1.1, 3.0) if name in ABOVE_ONE | POSITIVE else (-3.0, 3.0)
    if name in INSIDE:
        low = -0.9
    geo = sheet()
    for attribute, shape in (
        ("near", ()),
        ("far", ()),
        ("pair", (2,)),
        ("place", (3,)),
        ("four", (4,)),
        ("turned", (3, 3)),
        ("moved", (4, 4)),
    ):
        geo = geo.with_attribute("point", attribute, rng.uniform(low, high, (count, *shape)))
    top = 5 if name in ABOVE_ONE | POSITIVE else 2
    whole = np.zeros(count, int) if name in INSIDE else rng.integers(1 if top == 5 else -4, top + 3, count)
    other = rng.integers(1, 5, count) * rng.choice([1] if top == 5 else [-1, 1], count)
    if name in DIVIDING:
        whole, other = 2 * rng.integers(-2, 3, count) + 1, 2 * other
    geo = geo.with_attribute("point", "whole", whole)
    geo = geo.with_attribute("point", "other", np.zeros(count, int) if name in INSIDE else other)
    geo = geo.with_attribute("point", "yes", rng.random(count) < 0.5).with_attribute(
        "point", "no", rng.random(count) < 0.5
    )
    geo = geo.with_attribute("point", "word", np.array(["sand", "rock", "coral"])[rng.integers(0, 3, count)])
    return geo.with_attribute("point", "term", np.array(["sand", "rock", "mud"])[rng.integers(0, 3, count)])


def forms(function: Function, most: int) -> list[tuple[str, ...]]:
    """The combinations of types that a function takes."""
    found = []
    for count in range(1, most + 1):
        kinds = TYPES if count < 4 else ("number", "vec3", "vec4")
        found += [types for types in itertools.product(kinds, repeat=count) if function.resolve(named_all(*types))]
    return found[:60]


def values(types: tuple[str, ...]) -> list[str]:
    """An attribute for each type, another one where it comes again."""
    return [TYPES[type][sum(t == type for t in types[:at]) % 2] for at, type in enumerate(types)]


def compare(name: str, expressions: list[str]) -> None:
    text = "\n".join(f"here.r{number} = {one}" for number, one in enumerate(expressions))
    geo = studio(name)
    with collecting():
        first, second = run_script(geo, text, backend="vector"), run_interpreted(geo, text)
    for number, one in enumerate(expressions):
        a, b = (made.find("point", f"r{number}") for made in (first, second))
        assert a.type == b.type
        if a.values.dtype.kind == "f":
            np.testing.assert_array_equal(a.values, b.values, err_msg=one)
        else:
            assert (a.values == b.values).all(), one


@pytest.mark.parametrize("name", FUNCTIONS)
def test_functions(name: str) -> None:
    function = FUNCTIONS[name]
    found = forms(function, 5 if name in ("remap", "rescale") else 4 if name in ("vec4", "mat4") else 3)
    assert found, "the function takes something"
    compare(name, [f"{name}({', '.join(values(types))})" for types in found])


@pytest.mark.parametrize("name", [name for name in OPERATORS if name not in ("negate", "not", "if", "matrix *")])
def test_symbols(name: str) -> None:
    found = [types for types in forms(OPERATORS[name], 2) if len(types) == 2]
    assert found
    compare(name, [f" {name} ".join(values(types)) for types in found])


def test_the_others() -> None:
    compare("if", [f"{a} if yes else {b}" for a, b in TYPES.values()])
    compare("negate", [f"-{first}" for first in ("near", "whole", "pair", "place", "four")] + ["not yes"])
    compare("matrix *", ["turned * place", "turned * turned", "moved * four", "moved * moved"])


@pytest.mark.parametrize("name", ["noise", "noise3", "cells", "cell_number"])
def test_numbers_handed_over_as_one_value_count_for_all(name: str) -> None:
    compare(name, [f"{name}((0.3, 0.7, 1.1))", f"{name}(place * 0.5)"])
