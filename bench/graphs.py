"""Graphs: what a change at the end costs, what a loop costs beside its bodies run by hand, and a folded graph beside
the flat one.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Any

from bench.measure import Row, compare
from reticula.core import Geo, ops
from reticula.core.graph import Evaluator
from reticula.core.graph.editing import fold
from reticula.core.language.compiled import builder
from reticula.core.operators import find_operator

__all__ = ["rows"]

NODES = 30
ROUNDS = 50
SIDE = 200


def node(operator: str, *feeds: str, **parameters: Any) -> dict[str, Any]:
    return {"operator": operator, "parameters": parameters, "inputs": {"geo": list(feeds)} if feeds else {}}


def chain() -> dict[str, Any]:
    """Thirty nodes in a row, the last one a transform."""
    steps = (
        ("set_attribute", {"name": "warm", "value": {"formula": "noise(position * 3, 3)"}}),
        ("group", {"where": "random(2) < 0.3 and normal.y > -2"}),
        ("smooth", {}),
        ("transform", {"move": {"formula": "vec3(0, lift, 0)"}}),
    )
    nodes = {"n0": node("grid", cells=[SIDE, SIDE])}
    for number, (operator, parameters) in zip(range(1, NODES - 1), itertools.cycle(steps), strict=False):
        nodes[f"n{number}"] = node(operator, f"n{number - 1}", **parameters)
    nodes[f"n{NODES - 1}"] = node("transform", f"n{NODES - 2}")
    return {
        "format": "reticula graph",
        "version": 1,
        "nodes": nodes,
        "looking_at": f"n{NODES - 1}",
        "dials": {"lift": {"type": "number", "value": 0.001}},
    }


def changes_at_the_end() -> Row:
    """Move the last node, all others unchanged; the peer is the same graph without a cache."""
    document, warm, step = chain(), Evaluator(), itertools.count()
    last = document["nodes"][f"n{NODES - 1}"]
    warm.evaluate(document)

    def change() -> None:
        last["parameters"] = {"move": [next(step) * 0.001, 0.0, 0.0]}
        warm.evaluate(document)

    def everything() -> None:
        last["parameters"] = {"move": [next(step) * 0.001, 0.0, 0.0]}
        Evaluator().evaluate(document)

    return compare(
        f"change at the end of {NODES} nodes", f"{SIDE * SIDE:,} faces", change, "all of it anew", everything
    )


def loop() -> Row:
    """Fifty rounds that mark and smooth; the peer calls the same operators in a loop and keeps what they make."""
    body = {
        "format": "reticula graph",
        "version": 1,
        "inputs": [{"name": "geo"}],
        "outputs": [{"name": "geo", "feed": "moved"}],
        "nodes": {
            "geo": node("input", name="geo"),
            "mark": node("group", "geo", where="random(iteration) < 0.5"),
            "moved": node("smooth", "mark"),
        },
    }
    nodes = {
        "sheet": node("grid", cells=[SIDE, SIDE]),
        "loop": {**node("repeat", "sheet", rounds=ROUNDS), "graph": body},
    }
    document = {"format": "reticula graph", "version": 1, "nodes": nodes}
    sheet, mark, smooth = ops.grid(cells=(SIDE, SIDE)), find_operator("group"), find_operator("smooth")
    marking, smoothing = mark.check({"where": "random(iteration) < 0.5"}), smooth.check({})

    def by_hand() -> list[Geo]:
        kept = [sheet]
        for number in range(ROUNDS):
            (marked,) = mark.run(
                [kept[-1], *[None] * (len(mark.inputs) - 1)], marking, {"iteration": number, "iterations": ROUNDS}
            )
            kept += smooth.run([marked, *[None] * (len(smooth.inputs) - 1)], smoothing)
        return kept

    return compare(
        f"loop of {ROUNDS} rounds",
        f"{SIDE * SIDE:,} faces",
        lambda: Evaluator().evaluate(document),
        "its bodies by hand",
        by_hand,
        turns=9,
    )


def folded() -> Row:
    """The chain with all but its ends folded; the peer is the flat graph."""
    document = chain()
    packed, _ = fold(document, [f"n{number}" for number in range(1, NODES - 1)], "Middle")
    return compare(
        f"{NODES - 2} of {NODES} nodes folded",
        f"{SIDE * SIDE:,} faces",
        lambda: Evaluator().evaluate(packed),
        "the flat graph",
        lambda: Evaluator().evaluate(document),
    )


def rows() -> Iterator[Row]:
    """Give all comparisons. No kernels are built meanwhile: that would be work of neither side."""
    builder().enabled = False
    yield changes_at_the_end()
    yield loop()
    yield folded()
