"""Errors: what each says, and what it hands to the interface."""

import pytest

from reticula.core.errors import (
    FormatError,
    FormulaError,
    GeometryError,
    GraphError,
    LimitError,
    ParameterError,
    ReticulaError,
    Stopped,
    Unreachable,
)


@pytest.mark.parametrize(
    ("error", "message", "details"),
    [
        (GeometryError("no faces"), "no faces", {"code": "geometry"}),
        (FormatError("too short", line=3), "line 3: too short", {"code": "format", "line": 3, "byte": None}),
        (FormatError("too short", byte=0), "byte 0: too short", {"code": "format", "line": None, "byte": 0}),
        (FormatError("empty"), "empty", {"code": "format"}),
        (
            FormulaError("no 'x'", line=2, column=5, length=1),
            "line 2, column 5: no 'x'",
            {"code": "formula", "plain": "no 'x'", "line": 2, "column": 5, "length": 1},
        ),
        (ParameterError("size", "too large"), "size: too large", {"code": "parameter", "parameter": "size"}),
        (GraphError("a circle", node="a"), "a circle", {"code": "graph", "node": "a", "parameter": None}),
        (LimitError("too many"), "too many", {"code": "limit"}),
        (Stopped("stopped"), "stopped", {"code": "stopped"}),
        (Unreachable("away"), "away", {"code": "cluster"}),
    ],
)
def test_message_and_details(error: ReticulaError, message: str, details: dict[str, object]) -> None:
    assert str(error) == message
    told = error.details()
    assert told["message"] == message
    assert told | details == told


def test_a_parameter_keeps_the_place_in_its_formula() -> None:
    told = ParameterError("where", "no 'x'", cause=FormulaError("no 'x'", line=1, column=7)).details()
    assert (told["code"], told["parameter"], told["column"]) == ("parameter", "where", 7)


def test_every_code_is_its_own() -> None:
    kinds = ReticulaError.__subclasses__()
    assert len({kind.code for kind in kinds}) == len(kinds) == 9
