"""Looks: what the view and the ledger need to know of a geometry, as small data and named buffers."""

from __future__ import annotations

from typing import Any, assert_never, cast

import numpy as np

from reticula.contract.answers import (
    AnchorsLook,
    AttributeAbout,
    ChecksLook,
    Column,
    Defect,
    LookAnswer,
    NamesLook,
    RowsLook,
    SpreadLook,
    SummaryLook,
)
from reticula.contract.queries import (
    MOST_ROWS,
    AnchorsQuery,
    AttributeQuery,
    ChecksQuery,
    DifferenceQuery,
    EdgesQuery,
    FlatQuery,
    GroupsQuery,
    LiveQuery,
    LookQuery,
    MeshQuery,
    NamesQuery,
    NormalsQuery,
    PlaceQuery,
    RowsQuery,
    SpreadQuery,
    StatisticsQuery,
    SummaryQuery,
    TraceQuery,
    UvQuery,
    WhyQuery,
    WiresQuery,
)
from reticula.core.errors import GeometryError
from reticula.core.geometry import KINDS, Geo, Kind
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.edge_loops import edge_loops, edge_rings
from reticula.core.geometry.mesh.identity import descendants
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.geometry.validation.checks import Finding, find_defects, find_remarks
from reticula.core.language import evaluate
from reticula.core.language.scope import BUILTINS, Scope, adjacent
from reticula.core.operators.shared.followed_picks import have_copies
from reticula.core.operators.shared.picked import MOST_PICKED
from reticula.core.operators.shared.strokes.anchors import anchors_of
from reticula.core.reports.summary import describe_attribute, describe_geo, unit_of
from reticula.workers import render_data
from reticula.workers.attribute_look import attribute_look
from reticula.workers.buffers import BufferFiles
from reticula.workers.placed_shapes import SURFACE, placed_shapes
from reticula.workers.statistics import BUILT_IN, statistics

__all__ = ["look"]


def look(geo: Geo, query: LookQuery, buffers: BufferFiles) -> LookAnswer:
    """Return what a question asks of one result; those that need more than one are answered where the jobs are."""
    match query:
        case SummaryQuery():
            return _summary(geo)
        case MeshQuery():
            return render_data.mesh(geo, buffers)
        case FlatQuery():
            return render_data.flat(geo, buffers)
        case NormalsQuery():
            return render_data.strokes(geo, query, buffers)
        case EdgesQuery():
            return render_data.edge_kinds(geo, query, buffers)
        case GroupsQuery():
            return render_data.groups(geo, query, buffers)
        case UvQuery():
            return render_data.corner_uv(geo, buffers)
        case PlaceQuery():
            return render_data.place(geo)
        case AttributeQuery():
            return attribute_look(geo, query, buffers)
        case RowsQuery():
            return _rows(geo, query)
        case StatisticsQuery():
            return statistics(geo, query)
        case NamesQuery():
            return _names(geo, query)
        case AnchorsQuery():
            return _anchors(geo, query)
        case ChecksQuery():
            return _checks(geo)
        case SpreadQuery():
            return _spread(geo, query)
        case TraceQuery() | DifferenceQuery() | LiveQuery() | WiresQuery() | WhyQuery():
            raise AssertionError(f"'{query.what}' needs more than one result")
        case _:
            assert_never(query)


def _summary(geo: Geo) -> SummaryLook:
    built_in = {kind: [name for name, entry in BUILTINS.items() if kind in entry.read] for kind in KINDS}
    return cast(SummaryLook, {"what": "summary", **describe_geo(geo), "built_in": built_in, "placed": _placed(geo)})


def _placed(geo: Geo) -> dict[Kind, list[AttributeAbout]]:
    """What only the shapes have that stand in a geometry as instances."""
    found: dict[Kind, list[AttributeAbout]] = {}
    for shape, _ in placed_shapes(geo):
        for kind in SURFACE:
            known = found.setdefault(kind, [])
            names = {one["name"] for one in known}
            known += [
                cast(AttributeAbout, describe_attribute(name, attribute))
                for name, attribute in shape.attributes[kind].items()
                if name not in names and not geo.has(kind, name)
            ]
    return found


def _checks(geo: Geo) -> ChecksLook:
    """What is wrong with the geometry, at which elements, and what mends it."""
    standing = to_world(geo)
    return {
        "what": "checks",
        "checks": [_finding(one) for one in find_defects(standing)],
        "remarks": [_finding(one) for one in find_remarks(standing)],
    }


def _finding(one: Finding) -> Defect:
    return {
        "name": one.name,
        "kind": one.kind,
        "count": len(one.elements),
        "elements": one.elements[:MOST_ROWS].tolist(),
        "help": one.help,
        "repair": {"operator": one.repair[0], "parameters": one.repair[1]} if one.repair else None,
    }


def _spread(geo: Geo, query: SpreadQuery) -> SpreadLook:
    """Chosen elements with those around them (``grow``), without their rim (``shrink``), all of their piece, loop or
    ring.
    """
    kind, how = query.kind, query.how
    count = geo.topology.count(kind)
    rows = np.array(query.elements, np.int64)
    chosen = np.zeros(count, bool)
    chosen[rows[(rows >= 0) & (rows < count)]] = True
    if query.how == "piece":
        label = np.asarray(Scope(geo, kind).values(kind, "piece"))
        chosen = np.isin(label, np.unique(label[chosen]))
    elif how in ("grow", "shrink"):
        if kind not in ("point", "face"):
            raise GeometryError(f"points and faces can {how}, not {PLURAL[kind]}")
        start, around = adjacent(geo, kind, "neighbours")
        row = np.repeat(np.arange(count), np.diff(start))
        edge = np.zeros(count, bool)
        edge[row[chosen[around] if how == "grow" else ~chosen[around]]] = True
        chosen = chosen | edge if how == "grow" else chosen & ~edge
    else:
        if kind != "edge":
            raise GeometryError(f"edges have a {how}, {PLURAL[kind]} have none; pick an edge")
        chosen = (edge_loops if how == "loop" else edge_rings)(geo.topology, chosen)
    return {"what": "spread", "kind": kind, "elements": np.flatnonzero(chosen)[:MOST_PICKED].tolist()}


def _names(geo: Geo, query: NamesQuery) -> NamesLook:
    """The stable names of some elements, as hexadecimal text. Those that nothing else came from yet end in ``+``; edges
    have the names of their ends behind their own.
    """
    kind, count, asked = query.kind, geo.topology.count(query.kind), query.elements
    if any(not 0 <= number < count for number in asked):
        raise GeometryError(f"there are only {count:,} {PLURAL[kind]} now; pick them again")
    names = geo.identity(kind)
    chosen = names[asked]
    if kind == "edge":
        ends = geo.identity("point")[geo.topology.edges[asked]].tolist()
        named = [f"{name:x}:{low:x}:{high:x}" for name, (low, high) in zip(chosen.tolist(), ends, strict=True)]
        return {"what": "names", "kind": kind, "names": named}
    if kind == "point":
        shared = have_copies(geo, chosen, np.array(asked, np.int64))
    else:
        origin = descendants(names, chosen)
        outside = np.ones(count, bool)
        outside[asked] = False
        shared = np.bincount(origin[outside & (origin >= 0)], minlength=len(asked)) > 0
    texts = [f"{name:x}{'' if more else '+'}" for name, more in zip(chosen.tolist(), shared.tolist(), strict=True)]
    return {"what": "names", "kind": kind, "names": texts}


def _anchors(geo: Geo, query: AnchorsQuery) -> AnchorsLook:
    """What holds some places in the world on the geometry: faces and where in them; the places in its own space; and
    its extent, m.
    """
    anchors, own = anchors_of(geo, np.array(query.places, np.float64).reshape(-1, 3))
    return {
        "what": "anchors",
        "anchors": anchors,
        "places": own.tolist(),
        "extent": float(Scope(geo, "whole").values("whole", "extent")[0]),
    }


def _rows(geo: Geo, query: RowsQuery) -> RowsLook:
    """A page of the ledger: values of all attributes for some elements, sorted and filtered."""
    kind = query.kind
    columns = _columns(geo, kind)
    order = _order(geo, kind, query.sort, query.descending, query.where)
    page = order[query.offset : query.offset + query.limit]
    cells: list[list[Any]] = []
    for column in columns:
        values = [None] * len(page)
        if column["built_in"]:
            taken = np.asarray(Scope(geo, kind).values(kind, column["name"]))[page]
            values = taken.tolist()
        else:
            values = [geo.find(kind, column["name"]).row(int(i)) for i in page]
        cells.append(values)
    rows = [list(row) for row in zip(*cells, strict=True)] if cells else [[] for _ in page]
    return {
        "what": "rows",
        "columns": columns,
        "index": page.tolist(),
        "rows": rows,
        "total": len(order),
        "count": geo.topology.count(kind),
    }


def _columns(geo: Geo, kind: Kind) -> list[Column]:
    found: list[Column] = [
        {"name": name, "type": attribute.type, "unit": unit_of(name), "built_in": False}
        for name, attribute in geo.attributes[kind].items()
    ]
    found += [
        {"name": name, "type": BUILTINS[name].type.name, "unit": unit_of(name), "built_in": True}
        for name in BUILT_IN.get(kind, ())
        if not geo.has(kind, name)
    ]
    return found


def _order(geo: Geo, kind: Kind, sort: str, descending: bool, where: str) -> np.ndarray[Any, Any]:
    """Return element numbers, sorted by a column (``name`` or ``name.component``) and filtered by a formula."""
    count = geo.topology.count(kind)
    kept = np.flatnonzero(evaluate(where, geo, kind, "flag").array) if where.strip() else np.arange(count)
    if not sort or sort == "index":
        return kept[::-1] if descending else kept
    name, _, component = sort.partition(".")
    key = (id(geo), kind, sort)
    if key not in _orders:
        values = np.asarray(Scope(geo, kind).values(kind, name))
        start = geo.find(kind, name).start if geo.has(kind, name) else None
        if start is not None:
            values = np.diff(start)
        flat = values.reshape(count, -1)
        column = flat[:, min(int(component), flat.shape[1] - 1)] if component.isdigit() else flat[:, 0]
        rank = np.empty(count, np.int64)
        rank[np.argsort(column, kind="stable")] = np.arange(count)
        _orders.clear()
        _orders[key] = (geo, rank)
    order = kept[np.argsort(_orders[key][1][kept])]
    return order[::-1] if descending else order


_orders: dict[Any, tuple[Geo, np.ndarray[Any, Any]]] = {}
"""The last sorting, with the geometry it belongs to: paging through a sorted ledger sorts once."""
