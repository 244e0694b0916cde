"""For each: a graph run on every part of a geometry, the results joined."""

from __future__ import annotations

from collections.abc import Iterator
from fnmatch import fnmatchcase
from typing import Any

import numpy as np

from reticula.core.arrays import Ints
from reticula.core.context import KeyedGeo
from reticula.core.diagnostics import warn
from reticula.core.errors import LimitError, ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.components import face_components, point_components
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice, Text, Toggle
from reticula.core.operators.shared.nested_graph import nested_graph
from reticula.core.reports.concatenation import concatenate_and_tell
from reticula.core.words import with_article

__all__: list[str] = []

MOST_PARTS = 10_000


@operator(
    "for_each",
    family="operators of your own",
    inputs=(),
    keywords=("loop", "iterate", "every", "per piece", "parts", "split"),
    carries="Carries all into the parts and joins what comes out; where only some parts have an attribute, "
    "the others get its default.",
    example="""
        def round_one(geo, width=0.02):
            rounded = bevel(geo, width="width", segments=3)
            return rounded
        pieces = panels(grid(cells=[1, 1]), columns=4, rows=4)
        thick = extrude(pieces, distance=0.08, keep_base=True)
        for_each(thick, graph=round_one, over="piece")
    """,
    related=("repeat", "folded", "break_into_cells"),
    parameters=(
        Choice(
            "over",
            "piece",
            "what makes a part",
            options={
                "piece": "each connected part",
                "group": "each group whose name fits; what is in none passes by",
                "value": "all elements with the same value of an attribute",
                "element": "each single element",
            },
        ),
        KindChoice(
            "kind",
            "face",
            "kind of the elements",
            shown_when=("over", ["group", "value", "element"]),
            options={
                "face": "faces",
                "curve": "curves",
                "point": "points; faces and curves are left behind",
            },
        ),
        Text(
            "groups",
            "*",
            "names of groups, separated by spaces; * stands for any letters",
            shown_when=("over", "group"),
        ),
        AttributeName(
            "attribute", "", "an integer, flag, number or text attribute", shown_when=("over", "value"), optional=True
        ),
        Toggle(
            "spread",
            False,
            "let the cluster make heavy parts: other processes, of this machine or of others, run the graph inside on "
            "some of them at the same time; the result is the same",
        ),
    ),
    holds_graph=True,
)
def for_each(*, over: str, kind: Kind, groups: str, attribute: str, spread: bool) -> tuple[Geo, ...]:
    """Run the graph inside on every part of the first input, and join what comes out.

    Formulas inside read ``part`` (its number from 0), ``parts`` (how many) and ``part_value`` (what its elements have
    in common). Other inputs are the same for every part.
    """
    here = nested_graph()
    if not here.given:
        raise ParameterError("over", "the graph inside has no input; add one for the parts")
    first, whole = next(iter(here.given.items()))
    geo = whole.geo
    chosen: Kind = _piece_kind(geo) if over == "piece" else kind
    labels, values = _parts(geo, chosen, over, groups, attribute)
    if len(values) > MOST_PARTS:
        raise LimitError(f"there are {len(values):,} parts; {MOST_PARTS:,} is the most. Take larger parts.")
    if not values:
        warn(
            "There is no part, so the result is empty."
            if over != "group"
            else f"No group of {PLURAL[kind]} fits '{groups}'."
        )
    parts = (
        (
            KeyedGeo(_part(geo, chosen, rows), f"{whole.key}#{over}/{chosen}/{groups}/{attribute}/{number}"),
            {"part": number, "parts": len(values), "part_value": values[number]},
        )
        for number, rows in enumerate(_rows(labels, len(values)))
    )
    results: dict[str, list[Geo]] = {name: [] for name in here.outputs}
    for made in here.run_parts(first, parts, len(values), spread=spread):
        for name in here.outputs:
            results[name].append(made[name])
    rest = labels < 0
    if rest.any() and here.outputs:
        results[here.outputs[0]].append(_part(geo, chosen, np.flatnonzero(rest)))
    return tuple(concatenate_and_tell(results[name]) if results[name] else Geo.empty() for name in here.outputs)


def _piece_kind(geo: Geo) -> Kind:
    shape = geo.topology
    return "face" if shape.face_count else "curve" if shape.curve_count else "point"


def _parts(geo: Geo, kind: Kind, over: str, groups: str, attribute: str) -> tuple[Ints, list[Any]]:
    """Return the part of each element, -1 for none ``(N,)``, and what the elements of each part have in common."""
    count = geo.topology.count(kind)
    if over == "element":
        return np.arange(count), list(range(count))
    if over == "group":
        wanted = groups.replace(",", " ").split()
        labels = np.full(count, -1, np.int64)
        names = [name for name in geo.groups(kind) if any(fnmatchcase(name, pattern) for pattern in wanted)]
        for number, name in enumerate(names):
            labels[(labels < 0) & geo.group(kind, name)] = number
        return labels, names
    if over == "piece":
        pieces = {"face": face_components, "point": point_components}.get(kind)
        found = (
            pieces(geo) if pieces else point_components(geo)[geo.topology.curve_point[geo.topology.curve_start[:-1]]]
        )
        distinct, labels = np.unique(found, return_inverse=True)
        return labels, list(range(len(distinct)))
    if not attribute:
        raise ParameterError("attribute", f"choose an attribute of the {PLURAL[kind]}")
    values = geo.find(kind, attribute)
    if values.start is not None or values.values.ndim > 1:
        raise ParameterError(
            "attribute", f"'{attribute}' is {with_article(values.type)}; take an integer, flag, number or text"
        )
    distinct, labels = np.unique(values.values, return_inverse=True)
    return labels, distinct.tolist()


def _rows(labels: Ints, count: int) -> Iterator[Ints]:
    """Give the elements of each part in turn, in their old order."""
    order = np.argsort(labels, kind="stable")
    bounds = np.searchsorted(labels[order], np.arange(count + 1))
    for number in range(count):
        yield order[bounds[number] : bounds[number + 1]]


def _part(geo: Geo, kind: Kind, rows: Ints) -> Geo:
    """Return the elements ``rows`` of a kind with their points, and nothing else."""
    shape = geo.topology
    marked = {each: np.zeros(shape.count(each), bool) for each in ("face", "curve", "point")}
    marked[kind][rows] = True
    if kind == "point":
        return subset(geo, marked["face"], marked["curve"], marked["point"], leftovers=True)
    return subset(geo, marked["face"], marked["curve"], loose=False)
