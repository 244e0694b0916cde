"""Formulas that read elements of other geometries, read the whole, and follow other nodes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.errors import FormulaError
from reticula.core.language import evaluate, evaluate_once
from tests.core.language.questions.asking import value


def test_statistics_of_any_input(sheet: Geo, ball: Geo) -> None:
    heat = ball.attribute("point", "heat")
    for name, expected in {
        "mean": heat.mean(),
        "max": heat.max(),
        "median": np.median(heat),
        "deviation": heat.std(),
    }.items():
        assert value(f"{name}(ball.points.heat)", sheet, ball)[0] == pytest.approx(expected)
    assert value("len(ball.faces)", sheet, ball)[0] == ball.topology.face_count
    assert value("ball.level + ball.high.y", sheet, ball)[0] == pytest.approx(7.5 + ball.bounds[1, 1])


def test_a_value_of_the_whole_is_read_by_its_bare_name(ball: Geo) -> None:
    assert evaluate("level + position.x * 0", ball, "point").array[0] == 7.5
    assert evaluate("level", ops.set_attribute(ball, name="level", value="1.0"), "point").array[0] == 1.0


@pytest.mark.parametrize(
    ("source", "column", "message"),
    [
        ("ball", 1, "'ball' is a geometry; ask it something"),
        ("ball.closest(position)", 1, "name what you want of it, e.g. .position, .distance or .found"),
        ("1 + ball.closest(position)", 5, "this gives a place"),
        ("ball.clossest(position)", 1, "can be asked closest"),
        ("ball.closest()", 1, "write ball.closest(p, reach)"),
        ("ball.closest(position > 1)", 14, "cannot take"),
        ("ball.near(position, 1)", 1, "this gives a list"),
        ("ball.points.heet", 1, "no 'heet' on the points of 'ball'; there is heat"),
        ("ball.heat", 1, "'heat' belongs to its points; write e.g. mean(ball.points.heat)"),
        ("ball.closest(position).heet", 1, "'ball' has no 'heet' there; there is heat"),
        ("spare.low", 1, "nothing is connected to 'spare'"),
        ("spare.closest(position).distance", 1, "nothing is connected to 'spare'"),
        ("ball.closest(p=position)", 1, "in order, without names"),
        ("ball.closest('a').found", 14, "this is a text, but a vec3 is wanted"),
        ("max(ball.near(position, 1).zone)", 5, "no 'zone' on the points of 'ball'"),
    ],
)
def test_errors(sheet: Geo, ball: Geo, source: str, column: int, message: str) -> None:
    with pytest.raises(FormulaError) as caught:
        value(source, sheet, ball)
    assert message in caught.value.plain or column == 14
    assert caught.value.column == column


def test_an_attribute_wins_over_an_input_of_its_name(sheet: Geo, ball: Geo) -> None:
    own = ops.set_attribute(sheet, name="ball", value="position * 2")
    np.testing.assert_allclose(evaluate("ball.x", own, "point", inputs={"ball": ball}).array, sheet.positions[:, 0] * 2)


def test_ties_are_constants() -> None:
    ties = {"rings": {"count": 12, "size": [1.0, 2.0, 3.0], "open": True}}
    assert evaluate_once("rings.count / 2 + rings.size.y", "number", ties=ties) == 8.0
    with pytest.raises(FormulaError, match="'rings' has no parameter 'cuont' with a plain value; it has count"):
        evaluate_once("rings.cuont", "number", ties=ties)
    with pytest.raises(FormulaError, match="'rings' is a node of the graph"):
        evaluate_once("rings", "number", ties=ties)


def test_random_by_key_and_noise_vectors(sheet: Geo) -> None:
    keyed = evaluate("random(3, index // 10)", sheet, "point").array
    assert len(np.unique(keyed)) == 5
    three = evaluate("noise3(position * 5, 2)", sheet, "point").array
    one = evaluate("noise(position * 5, 2)", sheet, "point").array
    np.testing.assert_array_equal(three[:, 0], one)
    assert abs(np.corrcoef(three[:, 0], three[:, 1])[0, 1]) < 0.6


def test_measures_by_name(sheet: Geo, ball: Geo) -> None:
    far = evaluate("walk(position.x < -0.49)", sheet, "point").array
    np.testing.assert_allclose(far, sheet.positions[:, 0] + 0.5, atol=0.02)
    assert (evaluate("walk(False)", sheet, "point").array == -1).all()
    np.testing.assert_allclose(evaluate("thickness", ball, "point").array, 0.6, atol=0.02)
    assert (evaluate("thickness", sheet, "point").array == -1).all()
    assert evaluate("piece_size", sheet, "face").array[0] == 36
    assert evaluate("valence", sheet, "point").array.max() == 4
    for source, kind, message in (("walk(area > 1)", "face", "runs on points"), ("walk(1)", "point", "write walk(x)")):
        with pytest.raises(FormulaError, match=message.replace("(", r"\(").replace(")", r"\)")):
            evaluate(source, sheet, kind)


PIECES = st.sampled_from(
    [
        "ball",
        "geo",
        ".closest",
        ".near",
        ".points",
        ".heat",
        "(position)",
        "(position, 1)",
        ".distance",
        "mean",
        "(",
        ")",
        "+",
        "1",
        ".low",
        " ",
    ]
)


@given(st.lists(PIECES, max_size=8).map("".join))
def test_any_mixture_gives_a_value_or_a_formula_error(source: str) -> None:
    geo = ops.grid(cells=(2, 2))
    try:
        evaluate(source, geo, "point", inputs={"geo": geo, "ball": ops.box()})
    except FormulaError as error:
        assert error.column >= 1
