"""Formulas: values, types, errors with their place, and what is refused."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.errors import FormulaError
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import evaluate, evaluate_once


@pytest.fixture(scope="module")
def sheet() -> Geo:
    sheet = ops.grid(cells=(2, 2))
    sheet = sheet.with_attribute("point", "heat", np.arange(9.0)).with_attribute(
        "point", "label", np.array(list("aabbccdde"))
    )
    return sheet.with_attribute("face", "crest", [True, False, False, True])


@pytest.mark.parametrize(
    ("source", "kind", "type", "first"),
    [
        ("1 + 2 * 3", "point", "integer", 7),
        ("7 // 2 + 7 % 4", "point", "integer", 6),
        ("-7 // 2", "point", "integer", -4),
        ("1 / 2", "point", "number", 0.5),
        ("2 ** 10", "point", "number", 1024.0),
        ("heat", "point", "number", 0.0),
        ("(1, 2, 3)", "point", "vec3", [1, 2, 3]),
        ("vec3(1, 2, 3).zyx * 2", "point", "vec3", [6, 4, 2]),
        ("vec4(vec2(1, 2), 3, 4).ba", "point", "vec2", [3, 4]),
        ("vec3(5)", "point", "vec3", [5, 5, 5]),
        ("position[1]", "point", "number", 0.0),
        ("1 if heat > 3 else 2.5", "point", "number", 2.5),
        ("heat > 1 and not heat > 3 or heat == 0", "point", "flag", True),
        ("0 <= heat < 1", "point", "flag", True),
        ("label == 'a'", "point", "flag", True),
        ("crest", "face", "flag", True),
        ("area", "face", "number", 0.25),
        ("perimeter", "face", "number", 2.0),
        ("normal", "face", "vec3", [0, 1, 0]),
        ("border", "edge", "flag", True),
        ("length", "edge", "number", 0.5),
        ("high.x", "whole", "number", 0.5),
        ("mean(here.points.heat)", "face", "number", 2.0),
        ("sum(here.points.heat)", "face", "number", 8.0),
        ("max(here.neighbours.area)", "face", "number", 0.25),
        ("any(here.faces.crest)", "point", "flag", True),
        ("all(here.faces.crest)", "point", "flag", True),
        ("len(here.faces)", "point", "integer", 1),
        ("len(here.neighbours)", "point", "integer", 2),
        ("here.face.area + here.point.heat", "corner", "number", 0.25),
        ("clamp(heat, 2, 3)", "point", "number", 2.0),
        ("remap(5, 0, 10, 1, 3)", "point", "number", 2.0),
        ("pi", "point", "number", math.pi),
        ("number(heat > 1)", "point", "number", 0.0),
        ("integer(2.9)", "point", "integer", 2),
        ("height", "point", "number", 0.25),
    ],
)
def test_values_and_types(sheet: Geo, source: str, kind: Kind, type: str, first: object) -> None:
    found = evaluate(source, sheet, kind, dials={"height": 0.25})
    assert found.type == type
    assert len(found.array) == sheet.topology.count(kind)
    assert found.array[0].tolist() == first


@pytest.mark.parametrize(
    ("source", "kind", "wanted", "column", "message"),
    [
        ("heta * 2", "point", None, 1, "no 'heta' on points; near it are heat"),
        (
            "2 * area",
            "point",
            None,
            5,
            "'area' belongs to each face, and this runs on each point; write e.g. mean(here.faces.area)",
        ),
        ("heat", "corner", None, 1, "write here.point.heat"),
        ("heat", "face", None, 1, "mean(here.points.heat)"),
        ("1 + crest", "face", None, 1, "turn yes and no into 1 and 0 with number(x)"),
        ("heat and 3", "point", None, 1, "compare numbers first"),
        ("heat", "point", "flag", 1, "this gives a number, but a flag is wanted; compare it"),
        ("position", "point", "number", 1, "take one component"),
        ("heat +", "point", None, 7, "something is missing"),
        ("heat = 3", "point", None, 1, "to compare write '=='"),
        ("max(1", "point", None, 4, "brackets do not match"),
        ("sni(3)", "point", None, 1, "no function 'sni'; near it are"),
        ("sin", "point", None, 1, "'sin' is a function: write sin(x)"),
        ("dot(1, position)", "point", None, 1, "dot cannot take an integer and a vec3; write dot(a, b)"),
        ("position.q", "point", None, 1, "a vec3 has .xyz and .rgb, not .q"),
        ("position[3]", "point", None, 1, "one of 0 to 2"),
        ("here.points.heat", "face", None, 1, "gives a list"),
        ("here.walls.heat", "face", None, 1, "a face has no here.walls; it has here.points"),
        ("1 +\n  nope", "point", None, 3, "no 'nope'"),
        ("", "point", None, 1, "the formula is empty"),
        ("random(0.5)", "point", None, 1, "a whole number as seed"),
        ("99999999999999999999", "point", None, 1, "too large"),
    ],
)
def test_errors_say_what_where_and_what_to_do(
    sheet: Geo, source: str, kind: Kind, wanted: str | None, column: int, message: str
) -> None:
    with pytest.raises(FormulaError) as caught:
        evaluate(source, sheet, kind, wanted)
    assert message in caught.value.plain
    assert caught.value.column == column
    assert caught.value.line == (2 if "\n" in source else 1)


@pytest.mark.parametrize("source", ["1 / (heat - 4)", "sqrt(-heat)", "log(heat)", "10 ** 400.0"])
def test_no_result_is_ever_not_a_number(sheet: Geo, source: str) -> None:
    with pytest.raises(FormulaError, match=r"no finite number at \d of 9 points \(first: point \d\)"):
        evaluate(source, sheet, "point")


def test_whole_division_by_zero_has_its_own_words(sheet: Geo) -> None:
    with pytest.raises(FormulaError, match="division by zero; guard it"):
        evaluate("3 // index", sheet, "point")


HOSTILE = [
    "__import__('os').system('true')",
    "().__class__.__bases__[0]",
    "(lambda: 1)()",
    "[x for x in 'ab']",
    "f'{position}'",
    "open('/etc/passwd')",
    "position.__class__",
    "globals()",
    "eval('1')",
    "'%s' % position",
    "(x := 3)",
    "*position",
    "{1: 2}",
    "{1, 2}",
    "position[0:2]",
    "1 if 2 else 3",
    "await heat",
    "1 @ 2",
    "1 << 99999",
    "'a' * 10000000000",
    "b'1'",
    "1j",
    "...",
    "heat.real",
    "max(*position)",
    "sin(x=1)",
    "here",
    "here.__class__.heat",
    "(" * 300 + "1" + ")" * 300,
    "-" * 5000 + "1",
    "+".join(["1"] * 5000),
    "9" * 20000,
    "a" * 20000,
    "\x00",
    "not",
    "'" * 7,
    "1 is 1",
    "1 in (1, 2)",
    "lambda",
    "yield",
    "None",
    "heat if heat",
    "1e999",
    "vec3(1, 2, 3)(4)",
]


@pytest.mark.parametrize("source", HOSTILE, ids=lambda s: repr(s[:24]))
def test_hostile_formulas_are_refused_in_words(sheet: Geo, source: str) -> None:
    with pytest.raises(FormulaError):
        evaluate(source, sheet, "point")


@given(st.text(max_size=60))
def test_any_text_gives_a_value_or_a_formula_error(source: str) -> None:
    try:
        evaluate(source, ops.grid(cells=(1, 1)), "point")
    except FormulaError as error:
        assert error.line >= 1
        assert error.column >= 1


ATOMS = st.sampled_from(["heat", "index", "2", "3.5", "0.25", "pi"])
TREES = st.recursive(
    ATOMS,
    lambda inner: st.one_of(
        st.tuples(inner, st.sampled_from("+-*"), inner).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
        inner.map(lambda a: f"abs({a})"),
        st.tuples(inner, inner).map(lambda t: f"max({t[0]}, {t[1]})"),
        st.tuples(inner, inner, inner).map(lambda t: f"({t[0]} if {t[1]} > {t[2]} else {t[0]} / 2)"),
    ),
    max_leaves=12,
)


@given(TREES)
def test_arithmetic_agrees_with_plain_python(source: str) -> None:
    sheet = ops.grid(cells=(2, 2)).with_attribute("point", "heat", np.arange(9.0) - 3)
    found = evaluate(source, sheet, "point", "number").array
    for i in (0, 4, 8):
        names = {"heat": float(i - 3), "index": i, "pi": math.pi, "abs": abs, "max": max}
        expected = float(eval(source, {"__builtins__": {}}, names))
        assert found[i] == pytest.approx(expected, rel=1e-12, abs=1e-12)


def test_random_hangs_on_identity_not_on_order() -> None:
    grid = ops.grid(cells=(8, 8))
    before = evaluate("random(3)", grid, "face").array
    less = ops.remove(grid, where="index < 20")
    assert np.array_equal(evaluate("random(3)", less, "face").array, before[20:])
    assert not np.array_equal(evaluate("random(4)", grid, "face").array, before)
    assert 0 <= before.min() < 0.2
    assert 0.8 < before.max() < 1


def test_once() -> None:
    assert evaluate_once("width * 2", "number", {"width": 1.5}) == 3.0
    with pytest.raises(FormulaError, match="'position' belongs to each point"):
        evaluate_once("position.x", "number")
