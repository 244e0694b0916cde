"""What every declared operator does with what it is given: names, ranges, formulas, advice."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.operators import OPERATORS, Input, operator
from reticula.core.operators.declaration.parameters import (
    Number,
    PerElement,
)


@pytest.mark.parametrize(
    ("call", "message"),
    [
        (lambda: ops.grid(sise=1), "grid has no such parameter; did you mean size"),
        (lambda: ops.sphere(rings=1), "1 is outside of 2 to 4000"),
        (lambda: ops.sphere(rings=3.5), "takes a whole number, not 3.5"),
        (lambda: ops.grid(size=(1, 2, 3)), "takes 2 numbers"),
        (lambda: ops.grid(size=(-1, 2)), "-1 is outside of 0"),
        (lambda: ops.cylinder(caps=1), "takes yes or no"),
        (lambda: ops.grid(facing="down"), "takes one of up, forward, side"),
        (lambda: ops.sphere(radius="nope"), "there is no 'nope'"),
        (lambda: ops.sphere(radius=float("nan")), "takes a finite number"),
    ],
)
def test_bad_parameters_are_named(call: object, message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        call()  # type: ignore[operator]


def test_geometries_come_in_order_in_lists_or_by_name() -> None:
    box, ball = ops.box(), ops.sphere()
    joined = ops.join(box, ball).counts
    assert (
        ops.join([box, ball]).counts
        == ops.join(box, [ball]).counts
        == ops.join(geometries=(box, ball)).counts
        == joined
    )
    low, down = ops.transform(ops.grid(size=(4, 4)), move=(0, -2, 0)), {"direction": (0, -1, 0)}
    for made in (ops.raycast(target=low, geo=ops.grid(), **down), ops.raycast(ops.grid(), target=low, **down)):
        assert made.group("point", "hit").all()
    for call, message in (
        (lambda: ops.raycast(box, traget=ball), "raycast has no input 'traget'; did you mean target"),
        (lambda: ops.raycast(box, target=[ball, ball]), "target takes one geometry, not 2"),
        (lambda: ops.raycast(box, ball, ball), "takes 2 geometries"),
        (lambda: ops.join([box, 3]), "takes geometries first"),
    ):
        with pytest.raises(GeometryError, match=message):
            call()


def test_any_number_takes_a_formula() -> None:
    assert ops.sphere(rings="2 * 4", segments=8).counts["points"] == 58


def test_an_unknown_operator_names_its_neighbours() -> None:
    with pytest.raises(AttributeError, match="no operator 'extrud'; near it are extrude"):
        _ = ops.extrud


def test_a_declaration_that_does_not_fit_its_function_fails_at_import() -> None:
    with pytest.raises(TypeError, match="declared parameters differ"):
        operator("wrong", family="test", carries="-", parameters=(Number("n", 0.5, "help", unit="m"),))(lambda geo: geo)
    with pytest.raises(TypeError, match="grid is declared twice"):
        operator("grid", family="test", carries="-", parameters=())(lambda geo: geo)


def test_an_operator_is_one_declaration() -> None:
    def lift(geo: Geo, *, distance: np.ndarray) -> Geo:
        """Lift points.

        Straight up.
        """
        return geo.with_positions(geo.positions + np.outer(distance, [0, 1, 0]))

    operator(
        "test_lift",
        family="test",
        carries="Carries all.",
        parameters=(PerElement("distance", 1.0, "how far", on="point"),),
    )(lift)
    try:
        assert ops.test_lift(ops.grid(), distance="2 * fraction").bounds[1][1] == 2
        told = OPERATORS["test_lift"].describe()
        assert (told["summary"], told["description"]) == ("Lift points", "Straight up.")
        assert told["inputs"] == [{"name": "geo", "help": Input().help, "many": False, "optional": False}]
    finally:
        del OPERATORS["test_lift"]


def test_sections_are_of_the_operators_own_parameters() -> None:
    extrude = OPERATORS["extrude"]
    assert extrude.parameter("distance").section == ""
    assert extrude.parameter("rim_group").section == "names of groups"
    assert extrude.parameter("profile").describe()["section"] == "walls"
    declare = operator(
        "wrong", family="test", carries="-", parameters=(Number("n", 0.5, "help", unit="m"),), sections={"more": ("m",)}
    )
    with pytest.raises(TypeError, match="sections name what is not there"):
        declare(lambda geo, *, n: geo)
