"""States from frame to frame beside closed forms.

A harmonic oscillator x'' = -ω² x by the explicit and the semi-implicit (symplectic) scheme of Euler, both of the first
order: E. Hairer, C. Lubich and G. Wanner, Geometric Numerical Integration, chapter I.1. The symplectic one keeps
ω² x² + v² - ω² h x v exactly (same book, section I.5, from memory).
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.graph.evaluation.evaluator import frames_of, run_graph
from tests.core.graph.building import graph, node
from tests.core.operators.time.moving import velocity_of

OMEGA = 2.0
SPRING = f"""a = -{OMEGA * OMEGA} * position
here.velocity = velocity + a * seconds_per_step
here.position = position + here.velocity * seconds_per_step"""
EXPLICIT = f"""old = velocity
here.velocity = velocity - {OMEGA * OMEGA} * position * seconds_per_step
here.position = position + old * seconds_per_step"""


def oscillator(source: str, substeps: int = 1) -> dict[str, Any]:
    inner = graph({"moved": node("script", "geo", source=source)}, inputs=("geo",), outputs={"geo": "moved"})
    nodes = {
        "line": node("grid", cells=[1, 1]),
        "still": node("set_attribute", "line", name="velocity", value="vec3(0, 0, 0)"),
        "state": node("evolve", "still", graph=inner, substeps=substeps),
    }
    return graph(nodes, time={"first": 0, "last": 48, "rate": 24})


@pytest.mark.parametrize("source", [SPRING, EXPLICIT])
def test_an_oscillator_converges_to_its_closed_form_with_the_first_order(source: str) -> None:
    start = run_graph(oscillator(source), node="still").positions
    exact = start * np.cos(OMEGA * 24 / 24)
    errors = [
        np.abs(run_graph(oscillator(source, substeps), node="state", frame=24).positions - exact).max()
        for substeps in (2, 4, 8)
    ]
    np.testing.assert_allclose(np.log2(np.divide(errors[:-1], errors[1:])), 1.0, atol=0.1)


def test_the_symplectic_scheme_keeps_its_invariant() -> None:
    h = 1 / 24
    kept = []
    for state in frames_of(oscillator(SPRING), [0, 10, 48], node="state"):
        x, v = state.positions[:, 0], velocity_of(state)[:, 0]
        kept.append(OMEGA**2 * x**2 + v**2 - OMEGA**2 * h * x * v)
    np.testing.assert_allclose(kept[1], kept[0], rtol=1e-12)
    np.testing.assert_allclose(kept[2], kept[0], rtol=1e-12)


def test_repeat_and_evolve_agree_to_the_bit() -> None:
    body = "here.position = position * 0.9 + vec3(0.1, 0.2, 0)"
    inner = graph({"moved": node("script", "geo", source=body)}, inputs=("geo",), outputs={"geo": "moved"})
    document = graph(
        {
            "line": node("grid", cells=[3, 3]),
            "state": node("evolve", "line", graph=inner),
            "rounds": node("repeat", "line", graph=inner, rounds=11),
        }
    )
    state, rounds = (run_graph(document, node=name, frame=11) for name in ("state", "rounds"))
    np.testing.assert_array_equal(state.positions, rounds.positions)
    assert state.digest == rounds.digest
