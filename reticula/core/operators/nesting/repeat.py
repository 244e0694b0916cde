"""Repeat: a graph run again and again on its own result."""

from __future__ import annotations

from reticula.core.context import KeyedGeo
from reticula.core.diagnostics import note
from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry import Geo
from reticula.core.language import evaluate
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import FormulaText, Integer
from reticula.core.operators.shared.nested_graph import nested_graph

__all__: list[str] = []

MOST_ROUNDS = 10_000


@operator(
    "repeat",
    family="operators of your own",
    inputs=(),
    keywords=("loop", "iterate", "again", "rounds", "for", "while"),
    carries="As the operators inside say. What comes out under the name of an input goes in there again in "
    "the next round.",
    example="""
        def branch(geo):
            raised = extrude(geo, where="noise(position * 5) > -0.1", together=False, distance=0.12, inset=0.03)
            return raised
        repeat(geodesic_sphere(frequency=2), graph=branch, rounds=3)
    """,
    related=("for_each", "evolve", "folded"),
    parameters=(
        Integer("rounds", 3, "how often the graph inside runs", soft=(1, 20), low=0, high=MOST_ROUNDS),
        FormulaText("until", "", "end early when this holds after a round: a formula on the whole, e.g. high.y > 2"),
    ),
    holds_graph=True,
)
def repeat(*, rounds: int, until: str) -> tuple[Geo, ...]:
    """Run the graph inside several times: what comes out goes in again.

    Formulas inside read ``iteration`` (from 0) and ``iterations``. An output that has the name of an input is carried
    to the next round; other inputs stay as they are. Values are carried as attributes of the whole.
    """
    here = nested_graph()
    given = dict(here.given)
    made: dict[str, KeyedGeo] = {}
    for number in range(rounds):
        made = here.run(given, {"iteration": number, "iterations": rounds})
        given = {**given, **{name: part for name, part in made.items() if name in given}}
        if until.strip() and _holds(until, next(iter(made.values())).geo):
            note(f"Ended after {number + 1} of {rounds} rounds: '{until.strip()}' holds.")
            break
    return tuple((made.get(name) or given.get(name) or KeyedGeo(Geo.empty(), "")).geo for name in here.outputs)


def _holds(until: str, geo: Geo) -> bool:
    try:
        return bool(evaluate(until, geo, "whole", "flag").array[0])
    except FormulaError as error:
        raise ParameterError("until", error.plain, cause=error) from None
