"""Why an element has a value: which node gave it, by which text, from which values; one node back at a time."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.errors import GeometryError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.incidence import incident
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.graph.evaluation.evaluator import Evaluation
from reticula.core.graph.inspection.live_values import run_text
from reticula.core.graph.inspection.picked_element import Picked, element_in, related
from reticula.core.graph.inspection.provenance import source_of
from reticula.core.graph.inspection.text_place import FrameBefore, nothing_before, text_at
from reticula.core.graph.nesting.binding import is_bound
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import split_feed
from reticula.core.language.live import Live, Reading
from reticula.core.language.parse import parse_script
from reticula.core.language.scope import BUILTINS, Scope
from reticula.core.language.vector.told import told_plain
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import OnElements, Shape
from reticula.core.operators.scripting.controls import Code
from reticula.core.reports.summary import unit_of
from reticula.core.spatial.points import points_of

__all__ = ["why"]

MOST_CAUSES = 12
COUNTED = ("index", "count", "fraction")
"""Values that say only where in the order an element is."""
Add = Callable[["Cause"], None]


@dataclass(frozen=True)
class Cause:
    """A value that went into another one: of an element of the result ``feed``."""

    feed: str
    kind: Kind
    element: int
    name: str
    value: str

    def describe(self) -> dict[str, Any]:
        return {
            "feed": self.feed,
            "kind": self.kind,
            "element": self.element,
            "name": self.name,
            "value": self.value,
            "unit": unit_of(self.name),
        }


def why(
    done: Evaluation, feed: str, kind: Kind, element: int, name: str, frame_before: FrameBefore = nothing_before
) -> dict[str, Any]:
    """Return where a value of an element comes from, as plain data.

    ``carried`` lists the results, from where it is looked at back, whose nodes left the value as it came in; ``wrote``
    is the result whose node gave it, ``how`` says what that node did, ``texts`` the formulas or script that did (its
    source, what it gave for the element), ``values`` the plain parameters of that node, and ``causes`` the values that
    went in, each of which can be asked in turn. Raises GeometryError if there is no such element or value.
    """
    here = Picked(feed, kind, element)
    value = _value(done.geo(feed), here, name)
    carried: list[Cause] = []
    while True:
        carried.append(Cause(here.feed, here.kind, here.element, name, value))
        before = _before(done, here)
        if before is None or not _same_value(done, here, before, name):
            break
        here = before
    node = done.document["nodes"][split_feed(here.feed)[0]]
    chosen = operator_of(node)
    found = {
        "name": name,
        "value": value,
        "unit": unit_of(name),
        "carried": [one.describe() for one in carried[:-1]],
        "wrote": carried[-1].describe(),
        "operator": chosen.name,
    }
    if not done.geo(here.feed).has(here.kind, name):
        return {**found, **_worked_out(done, here, name)}
    return {**found, **_written(done, here, before, name, node, chosen, frame_before)}


def _value(geo: Geo, at: Picked, name: str) -> str:
    """The value of an element in words; GeometryError if there is none."""
    count = geo.topology.count(at.kind)
    if not 0 <= at.element < count:
        raise GeometryError(f"there are only {count:,} {PLURAL[at.kind]} here")
    row = _row(geo, at.kind, at.element, name)
    if row is None:
        raise GeometryError(f"{PLURAL[at.kind]} have no '{name}' here")
    return told_plain(row, quoted=True)


def _row(geo: Geo, kind: Kind, element: int, name: str) -> Any:
    """The value of an element as plain data; None if it has none of that name."""
    if geo.has(kind, name):
        return geo.find(kind, name).row(element)
    if Scope(geo, kind).type_of(kind, name) is None:
        return None
    values = Scope(geo, kind).values(kind, name)
    return values[element if len(values) > 1 else 0].tolist()


def _before(done: Evaluation, at: Picked) -> Picked | None:
    """The element that an element of a result came from, one node back; of a corner that of the same number."""
    node = done.document["nodes"][split_feed(at.feed)[0]]
    if at.kind in ("whole", "corner"):
        wire = next((one for fed in node.get("inputs", {}).values() for one in fed if done.has(one)), None)
        if wire is None or (at.kind == "corner" and done.geo(wire).topology is not done.geo(at.feed).topology):
            return None
        return Picked(wire, at.kind, at.element)
    source = source_of(done, at.feed, at.kind, at.element)
    return Picked(source[0], at.kind, source[1]) if source and done.has(source[0]) else None


def _same_value(done: Evaluation, at: Picked, before: Picked, name: str) -> bool:
    """Whether a node left a value as it came in: stored in both, and equal to the bit."""
    new, old = done.geo(at.feed), done.geo(before.feed)
    if new.has(at.kind, name) != old.has(before.kind, name):
        return False
    rows = _row(new, at.kind, at.element, name), _row(old, before.kind, before.element, name)
    return rows[1] is not None and bool(np.array_equal(np.asarray(rows[0]), np.asarray(rows[1])))


def _worked_out(done: Evaluation, here: Picked, name: str) -> dict[str, Any]:
    """A value that every element has without anyone setting it hangs on where its points are."""
    geo = done.geo(here.feed)
    causes: list[Cause] = []
    summary = BUILTINS[name].summary if name in BUILTINS else ""
    if name not in COUNTED:
        points = _points_of(geo, here)
        if points:
            places = [Picked(here.feed, "point", point) for point in points]
            causes = [Cause(at.feed, at.kind, at.element, "position", _value(geo, at, "position")) for at in places]
    how = f"gave the shape that it is worked out from: {summary}"
    return {"how": how, "texts": [], "values": [], "causes": [one.describe() for one in causes[:MOST_CAUSES]]}


def _points_of(geo: Geo, at: Picked) -> list[int]:
    start, around = incident(geo, "point", at.kind)
    return [int(one) for one in around[int(start[at.element]) : int(start[at.element + 1])][:MOST_CAUSES]]


def _written(
    done: Evaluation,
    here: Picked,
    before: Picked | None,
    name: str,
    node: Mapping[str, Any],
    chosen: Operator,
    frame_before: FrameBefore,
) -> dict[str, Any]:
    """What a node did that gave a value: its texts as they ran on the element, and what they read."""
    name_of_node = split_feed(here.feed)[0]
    texts: list[dict[str, Any]] = []
    causes: dict[tuple[str, str, int, str], Cause] = {}

    def add(cause: Cause) -> None:
        causes.setdefault((cause.feed, cause.kind, cause.element, cause.name), cause)

    for parameter, source in _texts_of(node, chosen):
        try:
            text = text_at(done, name_of_node, parameter, source)
            kind, _ = text.elements_of()
            wires = text.feeds.get(text.owner, [])
            element = 0 if kind == "whole" else element_in(done, here, wires[0], kind) if wires else None
        except ReticulaError:
            continue
        if element is None:
            continue
        live = run_text(text, element, frame_before)
        texts.append(_text(parameter, source, kind, element, live, name))
        for reading in live.readings:
            feed = next(iter(text.feeds.get(reading.owner or text.owner, [])), "")
            if feed and done.has(feed):
                _add_reading(done, feed, reading, add)
    if before is not None:
        row = _row(done.geo(before.feed), before.kind, before.element, name)
        if row is not None:
            add(Cause(before.feed, before.kind, before.element, name, told_plain(row, quoted=True)))
    for wire in (one for fed in node.get("inputs", {}).values() for one in fed):
        _add_same(done, wire, here, name, add)
    return {
        "how": _how(here, before, chosen, texts),
        "texts": texts,
        "values": _plain_values(node, chosen, done.dials, {text["parameter"] for text in texts}),
        "causes": [one.describe() for one in list(causes.values())[:MOST_CAUSES]],
    }


def _add_reading(done: Evaluation, feed: str, reading: Reading, add: Add) -> None:
    """Note what a text read as a cause, as it is in the result that comes in there."""
    row = _row(done.geo(feed), reading.kind, reading.element, reading.name)
    if row is not None and reading.name not in COUNTED:
        add(Cause(feed, reading.kind, reading.element, reading.name, told_plain(row, quoted=True)))


def _add_same(done: Evaluation, wire: str, here: Picked, name: str, add: Add) -> None:
    """Another input that has values of the name may be where they came from: what is nearest to the element there."""
    if not done.has(wire):
        return
    geo = done.geo(wire)
    kinds: list[Kind] = [here.kind, "point", "face", "corner"]
    kind = next((one for one in kinds if geo.has(one, name)), None)
    if kind is None:
        return
    element = element_in(done, here, wire, kind)
    if element is None:
        element = _nearest(done, wire, here, kind)
    if element is not None:
        add(Cause(wire, kind, element, name, told_plain(_row(geo, kind, element, name), quoted=True)))


def _nearest(done: Evaluation, wire: str, here: Picked, kind: Kind) -> int | None:
    """The element of another geometry that is nearest to an element."""
    own, other = to_world(done.geo(here.feed)), to_world(done.geo(wire))
    points = _points_of(own, here) if here.kind != "instance" else []
    if not points or not other.topology.point_count:
        return None
    middle = own.positions[points].mean(axis=0)[None]
    number, _ = points_of(other).nearest(middle)
    return related(other, "point", int(number[0]), kind)


def _texts_of(node: Mapping[str, Any], chosen: Operator) -> list[tuple[str, str]]:
    """The parameters of a node that are texts, with the text."""
    given = node.get("parameters", {})
    found: list[tuple[str, str]] = []
    for parameter in chosen.parameters:
        value = given.get(parameter.name, parameter.default)
        if isinstance(parameter, Code):
            found.append((parameter.name, str(value)))
        elif isinstance(value, Mapping) and isinstance(value.get("formula"), str):
            found.append((parameter.name, value["formula"]))
        elif isinstance(parameter, OnElements) and isinstance(value, str) and value.strip():
            found.append((parameter.name, value))
    return found


def _text(parameter: str, source: str, kind: Kind, element: int, live: Live, name: str) -> dict[str, Any]:
    """A text that ran on the element: whole, and with what it gave; of a script the lines that write the value."""
    result = live.result.text if live.result else ""
    return {
        "parameter": parameter,
        "source": source,
        "kind": kind,
        "element": element,
        "lines": [[line, told] for line, told in sorted(_latest(live).items())],
        "writes": _writing_lines(source, name),
        "result": result,
        "error": live.error,
    }


def _latest(live: Live) -> dict[int, str]:
    """What each line gave last."""
    found: dict[int, str] = {}
    for block in live.block.every():
        found |= block.lines
    return found | live.block.lines


def _writing_lines(source: str, name: str) -> list[int]:
    try:
        parsed = parse_script(source)
    except ReticulaError:
        return []
    lines: set[int] = set()
    for statement in parsed.statements:
        for part in ast.walk(statement):
            if isinstance(part, ast.Attribute) and isinstance(part.ctx, ast.Store) and part.attr == name:
                lines.add(part.lineno)
    return sorted(lines)


def _plain_values(
    node: Mapping[str, Any], chosen: Operator, dials: Mapping[str, Any], texts: set[str]
) -> list[list[str]]:
    """The plain parameters of a node that differ from their defaults, in words; a shape is named always."""
    given = node.get("parameters", {})
    found = []
    for parameter in chosen.parameters:
        value = given.get(parameter.name, parameter.default)
        bound = f"dial {value['dial']}: " if is_bound(value) else ""
        value = dials[value["dial"]] if is_bound(value) else value
        if parameter.name in texts or isinstance(parameter, Code) or not _is_told(value):
            continue
        if bound or value != parameter.default or isinstance(parameter, Shape):
            found.append([parameter.label, f"{bound}{told_plain(value, quoted=True)} {parameter.unit}".strip()])
    return found[:MOST_CAUSES]


def _is_told(value: Any) -> bool:
    """Whether a value is short enough to be read: one, or a few numbers."""
    if isinstance(value, list):
        return all(isinstance(part, (int, float)) for part in value)
    return isinstance(value, (bool, int, float, str))


def _how(here: Picked, before: Picked | None, chosen: Operator, texts: list[dict[str, Any]]) -> str:
    if any(isinstance(parameter, Shape) for parameter in chosen.parameters) and not chosen.inputs:
        return "brought it with the shape that was read"
    if texts and texts[0]["kind"] != "whole":
        return f"gave it, from what it read for {texts[0]['kind']} {texts[0]['element']}"
    if texts:
        return "gave it"
    if before is not None:
        return "changed it"
    return f"made this {here.kind} with it"
