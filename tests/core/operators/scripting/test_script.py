"""The operator `script`: controls and inputs that its text declares, dials, ties, places, stopping."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError, Stopped
from reticula.core.graph import Evaluator, run_graph
from reticula.core.language.controls import declared
from reticula.core.operators import OPERATORS
from reticula.core.operators.scripting.controls import parameter_of

TEXT = """reach: number(0, 2, unit="m", help="how far") = 0.5
rounds: integer(1, 9) = 2
on: toggle = True
way: choice("up", "out") = "out"
offset: vector = (0, 1, 0)
tint: color = (1, 0.5, 0)
profile: curve(0, 1) = [(0, 0), (1, 1)]
shades: gradient = [(0, 0, 0, 0), (1, 1, 1, 1)]
reef: geometry
"""


def graph(source: str, controls: dict[str, object] | None = None, **more: object) -> dict[str, object]:
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
        "ball": {"operator": "sphere"},
        "own": {
            "operator": "script",
            "inputs": {"geo": ["sheet"], "reef": ["ball"]},
            "parameters": {"source": source, "controls": controls or {}, **more},
        },
    }
    return {
        "format": "reticula graph",
        "version": 1,
        "nodes": nodes,
        "looking_at": "own",
        "dials": {"height": {"type": "number", "value": 0.3}},
    }


def test_every_kind_of_control_is_declared() -> None:
    found = declared(TEXT)
    described = {c.name: parameter_of(c).describe() for c in found.controls}
    assert {name: entry["widget"] for name, entry in described.items()} == {
        "reach": "number",
        "rounds": "integer",
        "on": "toggle",
        "way": "choice",
        "offset": "vector",
        "tint": "color",
        "profile": "response curve",
        "shades": "gradient",
    }
    assert (
        described["reach"] | {"help": "how far", "unit": "m", "low": 0, "high": 2, "default": 0.5} == described["reach"]
    )
    assert described["tint"]["default"] == [1, 0.5, 0, 1]
    assert [option["value"] for option in described["way"]["options"]] == ["up", "out"]
    assert [entry.name for entry in found.inputs] == ["reef"]


def test_controls_take_values_and_formulas(notes: list[Note]) -> None:
    source = (
        TEXT + "here.a = reach * rounds * profile(0.5) + offset.y\nhere.color = shades(0.5) if on else "
        "tint\nhere.up = way == 'up'"
    )
    made = run_graph(graph(source, {"reach": {"formula": "height * 2"}, "rounds": 3, "on": False, "way": "up"}))  # type: ignore[arg-type]
    assert made.attribute("point", "a") == pytest.approx(np.full(25, 0.6 * 3 * 0.5 + 1))
    assert made.attribute("point", "color")[0].tolist() == [1, 0.5, 0, 1]
    assert made.attribute("point", "up").all()


@pytest.mark.parametrize(
    ("controls", "message"),
    [
        ({"reach": 9}, "outside of 0 to 2"),
        ({"way": "down"}, "one of up, out"),
        ({"rounds": 1.5}, "whole number"),
        ({"profile": 3}, "points"),
    ],
)
def test_a_control_that_does_not_fit_is_named(controls: dict[str, object], message: str) -> None:
    with pytest.raises(ParameterError, match=message) as caught:
        ops.script(ops.grid(), source=TEXT + "here.a = reach", controls=controls)
    assert caught.value.parameter == "controls"


def test_values_of_controls_that_went_are_kept_and_told() -> None:
    done = Evaluator().evaluate(graph("here.a = 1", {"gone": 4}))  # type: ignore[arg-type]
    assert "declares no control 'gone' any more; its value 4 is put by" in done.nodes["own"].notes[0].text


def test_dials_and_ties_are_read_in_the_text() -> None:
    made = run_graph(graph("here.a = height * ball.radius"))  # type: ignore[arg-type]
    assert made.attribute("point", "a")[0] == pytest.approx(0.3 * OPERATORS["sphere"].parameter("radius").default)


def test_a_dial_that_the_text_reads_makes_it_run_again() -> None:
    evaluator, document = Evaluator(), graph("here.a = height")
    first = evaluator.evaluate(document)  # type: ignore[arg-type]
    assert evaluator.evaluate(document).nodes["own"].cached  # type: ignore[arg-type]
    again = evaluator.evaluate(document, dials={"height": 0.7})  # type: ignore[arg-type]
    assert not again.nodes["own"].cached
    assert first.geo("own").digest != again.geo("own").digest


def test_inputs_come_from_the_text_and_stay_wired_when_it_breaks() -> None:
    good = Evaluator().evaluate(graph("reef: geometry\nhere.far = reef.closest(position).distance"))  # type: ignore[arg-type]
    assert good.nodes["own"].state == "done"
    broken = Evaluator().evaluate(graph("reef: geometry\nhere.far = reef.closest(position).distanse"))  # type: ignore[arg-type]
    error = broken.nodes["own"].error
    assert error is not None
    assert (error["parameter"], error["line"], error["column"]) == ("source", 2, 12)
    assert "there is distance" in error["message"]
    without = Evaluator().evaluate(graph("here.far = 1"))  # type: ignore[arg-type]
    assert without.nodes["own"].state == "done"


def test_other_geometries_are_seen_where_they_stand(notes: list[Note]) -> None:
    moved = ops.set_place(ops.sphere(radius=0.1), move=(5, 0, 0))
    text = "reef: geometry\nhere.far = reef.closest(position).distance"
    seen = ops.script(ops.grid(), moved, source=text).attribute("point", "far")
    own = ops.script(ops.grid(), moved, source=text, space="own").attribute("point", "far")
    assert seen.min() > 4
    assert own.min() < 1


def test_once_needs_no_input(notes: list[Note]) -> None:
    assert ops.script(each="once", source="add_curve([add_point((i, 0, 0)) for i in range(3)])").counts["curves"] == 1


def test_a_script_stops_when_the_evaluation_does() -> None:
    asked = []

    def should_stop() -> bool:
        asked.append(1)
        return len(asked) > 8

    with pytest.raises(Stopped):
        Evaluator().evaluate(graph("k = 0\nwhile True:\n    k += 1"), should_stop=should_stop)  # type: ignore[arg-type]


def test_ports_follow_the_text() -> None:
    entry = OPERATORS["script"]
    assert [port.name for port in entry.inputs_for({"source": TEXT})] == ["geo", "reef"]
    assert [port.name for port in entry.inputs_for({"source": "broken ("})] == ["geo"]
    assert entry.describe()["declares_inputs"]
    assert Geo.empty().counts["points"] == 0
