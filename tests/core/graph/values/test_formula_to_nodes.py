"""Formulas and scripts drawn as nodes: the same values as the text, equal parts drawn once, refusals with a place."""

from typing import Any

import pytest

from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph import run_graph
from reticula.core.graph.values.formula_to_nodes import formula_to_nodes, script_to_nodes
from tests.core.graph.building import graph, node


def displaced(formula: str) -> dict[str, Any]:
    return graph({"a": node("grid", cells=[6, 6]), "d": node("displace", "a", value={"formula": formula})})


@pytest.mark.parametrize(
    "formula",
    [
        "0.3",
        "-position.x",
        "noise(position * 2, 3) * 0.5",
        "0.2 if border else position.x ** 2",
        "clamp(fraction, 0.2, 0.8)",
        "mix(0, 1, fraction) - remap(position.z, -1, 1, 0, 0.5)",
        "rescale(position.z, -0.1, 0.1, 0, 0.5)",
        "a = position.x * 3\na + a * a",
        "0.1 if 0 < position.x < 0.3 else 0",
        "mean(here.neighbours.position.x)",
    ],
)
def test_the_drawing_gives_the_same(formula: str) -> None:
    before = displaced(formula)
    drawn = formula_to_nodes(before, "d", "value")
    after = displaced(formula)
    after["nodes"] |= drawn.nodes
    after["nodes"]["d"]["parameters"]["value"] = drawn.value
    assert run_graph(after, node="d").positions == pytest.approx(run_graph(before, node="d").positions)


def test_equal_parts_are_drawn_once() -> None:
    drawn = formula_to_nodes(displaced("noise(position) + noise(position) * noise(position)"), "d", "value")
    assert [entry["operator"] for entry in drawn.nodes.values()].count("noise_value") == 1


@pytest.mark.parametrize(("parameter", "value"), [("value", 0.5), ("where", "")])
def test_without_a_formula_there_is_nothing_to_draw(parameter: str, value: Any) -> None:
    made = graph({"a": node("grid"), "d": node("displace", "a", **{parameter: value})})
    with pytest.raises(GraphError, match=f"'{parameter}' holds no formula"):
        formula_to_nodes(made, "d", parameter)


def scripted(source: str, each: str = "point") -> dict[str, Any]:
    return graph({"a": node("grid", cells=[4, 4]), "s": node("script", "a", source=source, each=each)})


def test_a_script_becomes_attributes_set_one_after_the_other() -> None:
    source = "high: number = 0.4\nx = position.x * 2\nif border:\n    here.edge = 1.0\nhere.heat = x + high"
    before = scripted(source)
    drawn = script_to_nodes(before, "s")
    after = scripted(source)
    after["nodes"] |= drawn.nodes
    assert drawn.last is not None
    made, wanted = run_graph(after, node=drawn.last), run_graph(before, node="s")
    for name in ("heat", "edge"):
        assert made.attribute("point", name) == pytest.approx(wanted.attribute("point", name))


@pytest.mark.parametrize(
    ("source", "line"),
    [
        ("for n in here.neighbours:\n    n.a += 1", 1),
        ("here.a = 1\nadd_point(position)", 2),
        ("here.a = 1\nprint(index)", 2),
    ],
)
def test_what_cannot_be_drawn_has_its_line(source: str, line: int) -> None:
    with pytest.raises(FormulaError) as caught:
        script_to_nodes(scripted(source), "s")
    assert caught.value.line == line


def test_a_script_that_runs_once_is_not_drawn() -> None:
    with pytest.raises(GraphError, match="runs once, or on pieces"):
        script_to_nodes(scripted("here.a = 1", "once"), "s")
