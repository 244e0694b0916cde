"""Evolve: a graph that gets its own result of the frame before."""

from __future__ import annotations

from reticula.core.context import KeyedGeo, current
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.language.scope import TIMELINE
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer
from reticula.core.operators.shared.nested_graph import nested_graph

__all__: list[str] = []

MOST_SUBSTEPS = 1_000
FARTHEST = 10_000_000


@operator(
    "evolve",
    family="operators of your own",
    inputs=(),
    keywords=("simulation", "solver", "grow", "feedback", "state", "previous frame", "accumulate", "step", "over time"),
    carries="As the operators inside say. What comes out under the name of an input goes in there again at the next "
    "frame.",
    example="""
        def one_step(polyps, growth=0.06):
            moved = transform(polyps, move=[0, 0.05, 0])
            grown = displace(moved, value="0.2 + noise(position * 6 + time)", amount="growth")
            return grown
        start = geodesic_sphere(radius=0.2, frequency=8)
        evolve(start, graph=one_step)
    """,
    related=("repeat", "motion", "paths_over_time"),
    parameters=(
        Integer(
            "reset",
            0,
            "frame at which it begins with what comes in",
            soft=(0, 48),
            low=-FARTHEST,
            high=FARTHEST,
        ),
        Integer(
            "substeps",
            1,
            "how often the graph inside runs for each frame",
            soft=(1, 8),
            low=1,
            high=MOST_SUBSTEPS,
        ),
    ),
    remembers=True,
    holds_graph=True,
)
def evolve(*, reset: int, substeps: int) -> tuple[Geo, ...]:
    """Run the graph inside once for each frame, on its own result of the frame before.

    At the frame of the reset, and before it, an output that has the name of an input is what comes in there; from then
    on it is what the graph makes of its last result. Other inputs are as they are at each frame. Formulas inside read
    ``step`` (how often it ran, from 0), ``age`` (seconds since the reset, at the end of the step) and
    ``seconds_per_step``. The same graph gives the same states, whichever frame is looked at first; what is known stays
    known, also when it is stopped.
    """
    here = nested_graph()
    moment = current().moment or TIMELINE
    done = round(moment["frame"] - reset)
    if done <= 0:
        return tuple((here.given.get(name) or KeyedGeo(Geo.empty(), "")).geo for name in here.outputs)
    if here.before is None:
        raise ParameterError("reset", "there is no frame before; this operator can only be used in a graph")
    seconds = moment["seconds_per_frame"] / substeps
    made = dict(here.before)
    for part in range(substeps):
        step = (done - 1) * substeps + part
        given = {**here.given, **{name: state for name, state in made.items() if name in here.given}}
        made = here.run(given, {"step": step, "age": (step + 1) * seconds, "seconds_per_step": seconds})
    return tuple(made[name].geo for name in here.outputs)
