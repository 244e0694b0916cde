"""Looks: what the view and the ledger need to know of a geometry, as small data and named buffers."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from reticula.core.errors import GeometryError
from reticula.core.geometry import KINDS, Geo, Kind
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.edge_loops import edge_loops, edge_rings
from reticula.core.geometry.mesh.identity import descendants
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.geometry.validation.checks import Finding, find_defects, find_remarks
from reticula.core.language import evaluate
from reticula.core.language.scope import BUILTINS, Scope, adjacent
from reticula.core.operators.shared.picked import MOST_PICKED
from reticula.core.operators.shared.strokes.anchors import anchors_of
from reticula.core.reports.summary import describe_attribute, describe_geo, unit_of
from reticula.workers import render_data
from reticula.workers.buffers import BufferFiles
from reticula.workers.render_data import kind_of
from reticula.workers.statistics import BUILT_IN, statistics

__all__ = ["look"]

MOST_ROWS = 2000
Buffers = BufferFiles


def look(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """Return what ``query`` asks for; ``query["what"]`` names one of the functions below."""
    what = str(query.get("what"))
    if what not in LOOKS:
        raise GeometryError(f"nothing is known about '{what}'")
    return LOOKS[what](geo, query, buffers)


def _summary(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    built_in = {kind: [name for name, entry in BUILTINS.items() if kind in entry.read] for kind in KINDS}
    return {**describe_geo(geo), "built_in": built_in}


def _checks(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """What is wrong with the geometry, at which elements, and what mends it."""
    standing = to_world(geo)
    return {
        "checks": [_finding(one) for one in find_defects(standing)],
        "remarks": [_finding(one) for one in find_remarks(standing)],
    }


def _finding(one: Finding) -> dict[str, Any]:
    return {
        "name": one.name,
        "kind": one.kind,
        "count": len(one.elements),
        "elements": one.elements[:MOST_ROWS].tolist(),
        "help": one.help,
        "repair": {"operator": one.repair[0], "parameters": one.repair[1]} if one.repair else None,
    }


def _spread(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """Chosen elements with those around them (``grow``), without their rim (``shrink``), all of their piece, loop or
    ring.
    """
    kind, how = kind_of(query), str(query.get("how"))
    count = geo.topology.count(kind)
    rows = np.array([int(one) for one in query.get("elements", [])][:MOST_PICKED], np.int64)
    chosen = np.zeros(count, bool)
    chosen[rows[(rows >= 0) & (rows < count)]] = True
    if how == "piece":
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
    elif how in ("loop", "ring"):
        if kind != "edge":
            raise GeometryError(f"edges have a {how}, {PLURAL[kind]} have none; pick an edge")
        chosen = (edge_loops if how == "loop" else edge_rings)(geo.topology, chosen)
    else:
        raise GeometryError(f"chosen elements grow, shrink, take their piece, loop or ring; not '{how}'")
    return {"kind": kind, "elements": np.flatnonzero(chosen)[:MOST_PICKED].tolist()}


def _names(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """The stable names of some elements, as hexadecimal text; those that nothing else came from yet end in ``+``."""
    kind, count = kind_of(query), geo.topology.count(kind_of(query))
    asked = [int(number) for number in query.get("elements", [])][:MOST_PICKED]
    if any(not 0 <= number < count for number in asked):
        raise GeometryError(f"there are only {count:,} {PLURAL[kind]} now; pick them again")
    names = geo.identity(kind)
    chosen = names[asked]
    origin = descendants(names, chosen)
    outside = np.ones(count, bool)
    outside[asked] = False
    shared = np.bincount(origin[outside & (origin >= 0)], minlength=len(asked)) > 0
    texts = [f"{name:x}{'' if more else '+'}" for name, more in zip(chosen.tolist(), shared.tolist(), strict=True)]
    return {"kind": kind, "names": texts}


def _anchors(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """What holds some places in the world on the geometry: faces and where in them; the places in its own space; and
    its extent, m.
    """
    places = np.array(query.get("places", []), np.float64).reshape(-1, 3)
    if not np.isfinite(places).all():
        raise GeometryError("places are three finite numbers each")
    anchors, own = anchors_of(geo, places)
    return {
        "anchors": anchors,
        "places": own.tolist(),
        "extent": float(Scope(geo, "whole").values("whole", "extent")[0]),
    }


def _attribute(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """One attribute (or built-in) for false colour: 32-bit numbers per element, with its real range."""
    kind, name = kind_of(query), str(query.get("name"))
    if geo.has(kind, name):
        attribute = geo.find(kind, name)
        about = describe_attribute(name, attribute)
        if attribute.start is not None:
            values: np.ndarray[Any, Any] = np.diff(attribute.start).astype(np.float64)
            about |= {"type": "integer", "low": [float(values.min(initial=0))], "high": [float(values.max(initial=0))]}
        elif attribute.type == "text":
            words, codes = np.unique(attribute.values, return_inverse=True)
            about |= {"words": words[:64].tolist(), "low": [0.0], "high": [float(max(len(words) - 1, 0))]}
            values = codes.reshape(-1).astype(np.float64)
        else:
            values = attribute.values
    else:
        scope = Scope(geo, kind)
        type = scope.type_of(kind, name)
        if type is None:
            geo.find(kind, name)
        values = np.asarray(scope.values(kind, name))
        count = geo.topology.count(kind)
        values = np.broadcast_to(values, (count, *values.shape[1:]))
        flat = values.reshape(count, -1)
        about = {"name": name, "type": type}
        if count:
            about |= {"low": flat.min(axis=0).astype(float).tolist(), "high": flat.max(axis=0).astype(float).tolist()}
    dtype = "u1" if values.dtype == bool else "<f4"
    return {**about, "unit": unit_of(name), "kind": kind, "values": buffers.keep(values.astype(dtype))}


def _rows(geo: Geo, query: dict[str, Any], buffers: Buffers) -> dict[str, Any]:
    """A page of the ledger: values of all attributes for some elements, sorted and filtered."""
    kind = kind_of(query)
    offset, limit = max(int(query.get("offset", 0)), 0), min(int(query.get("limit", 100)), MOST_ROWS)
    columns = _columns(geo, kind)
    order = _order(
        geo, kind, str(query.get("sort") or ""), bool(query.get("descending")), str(query.get("where") or "")
    )
    page = order[offset : offset + limit]
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
        "columns": columns,
        "index": page.tolist(),
        "rows": rows,
        "total": len(order),
        "count": geo.topology.count(kind),
    }


def _columns(geo: Geo, kind: Kind) -> list[dict[str, Any]]:
    found = [
        {"name": name, "type": attribute.type, "unit": unit_of(name), "built_in": False}
        for name, attribute in geo.attributes[kind].items()
    ]
    found += [
        {"name": name, "type": BUILTINS[name].type, "unit": unit_of(name), "built_in": True}
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


LOOKS: dict[str, Callable[[Geo, dict[str, Any], Buffers], dict[str, Any]]] = {
    "summary": _summary,
    "mesh": render_data.mesh,
    "flat": render_data.flat,
    "normals": render_data.strokes,
    "edges": render_data.edge_kinds,
    "groups": render_data.groups,
    "uv": render_data.corner_uv,
    "place": render_data.place,
    "attribute": _attribute,
    "rows": _rows,
    "statistics": statistics,
    "names": _names,
    "anchors": _anchors,
    "checks": _checks,
    "spread": _spread,
}
