"""What can be written where: the names, functions and questions that an editor offers, with types, ranges and help."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, as_rows
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.language.asked_elements import ASKED
from reticula.core.language.controls import CONTROLS
from reticula.core.language.functions import FAMILIES, FUNCTIONS
from reticula.core.language.functions.patterns import RANDOM
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.scope import AROUND, BUILTINS, CONSTANTS, SINGLE, TIME_HELP, Scope
from reticula.core.language.typecheck import GATHER, MAKERS
from reticula.core.reports.summary import describe_attribute, unit_of

__all__ = ["describe_functions", "describe_members", "describe_names", "values_in_words"]

MAKING = {
    "add_point": "makes a point; with 'like' it copies the attributes of that point",
    "add_curve": "makes a curve through points; closed=True joins its ends",
    "add_face": "makes a face through at least three points, counter-clockwise",
    "add_segments": "makes a curve for each two neighbours in a list of points",
}
EXAMPLES = {
    "mean": "mean([1, 2, 6]) == 3",
    "sum": "sum([1, 2, 6]) == 9",
    "min": "min([4, 2, 6]) == 2",
    "max": "max([4, 2, 6]) == 6",
    "median": "median([1, 2, 6]) == 2",
    "deviation": "deviation([2, 4, 2, 4]) == 1",
    "any": "any([False, True])",
    "all": "not all([False, True])",
    "len": "len([1, 2, 6]) == 3",
    "range": "sum(range(2, 5)) == 9",
    "random": "random(1, 2) == random(1, 2)",
    "walk": "walk(border) >= 0",
}
DECLARES = {
    "number": "a number with a slider",
    "integer": "a whole number with a slider",
    "toggle": "yes or no",
    "choice": "one of some words",
    "vector": "two to four numbers",
    "color": "a colour, linear red, green, blue and alpha",
    "curve": "a response curve through points (x, y), asked at a number",
    "gradient": "a gradient of stops (x, red, green, blue), asked at a number",
    "geometry": "an input",
}
WORDS = {
    "remove": ("remove(element)", "removes a point, edge, face or curve"),
    "print": ("print(value, …)", "shows values of the element that is picked"),
    "range": ("range(begin, end, step)", "a list of whole numbers from begin up to, not including, end"),
    "walk": ("walk(where)", "distance along the surface from the points where something holds"),
    "random": (RANDOM.usage, RANDOM.summary),
}


def describe_functions() -> list[dict[str, Any]]:
    """Return all functions: name, how it is written, what it does, family and source."""
    found = [
        {
            "name": f.name,
            "usage": f.usage,
            "summary": f.summary,
            "family": family,
            "source": f.source,
            "example": f.example,
        }
        for family, names in FAMILIES.items()
        for f in (FUNCTIONS[name] for name in names)
    ]
    more = [(name, f"{name}(list)", f"of a list: {summary}", "lists") for name, summary in GATHER.items()]
    more += [
        (name, usage, summary, "lists" if name in EXAMPLES else "script") for name, (usage, summary) in WORDS.items()
    ]
    more += [(name, MAKERS[name], summary, "script") for name, summary in MAKING.items()]
    more += [
        (name, f"name: {usage}{'' if name == 'geometry' else ' = default'}", DECLARES[name], "controls")
        for name, usage in CONTROLS.items()
    ]
    return found + [
        {
            "name": name,
            "usage": usage,
            "summary": summary,
            "family": family,
            "source": "",
            "example": EXAMPLES.get(name, ""),
        }
        for name, usage, summary, family in more
    ]


def describe_names(scope: Scope) -> list[dict[str, Any]]:
    """Return the bare names that can be read, with type, range and where they come from."""
    kind = scope.kind
    found = [
        {"name": name, "type": _type_of(value), "from": "control", "summary": "a control or dial"}
        for name, value in scope.dials.items()
    ]
    found += [
        {"name": name, "type": "curve", "from": "control", "summary": "ask it at a number"} for name in scope.profiles
    ]
    found += _on(scope, kind)
    if kind != "whole":
        found += [entry for entry in _on(scope, "whole") if entry["from"] == "attribute"]
    found += [
        {"name": name, "type": "number", "from": "constant", "summary": f"{value:.6g}"}
        for name, value in CONSTANTS.items()
    ]
    found += [
        {"name": name, "type": "number", "from": "time", "summary": summary} for name, summary in TIME_HELP.items()
    ]
    found += [
        {
            "name": name,
            "type": "geometry",
            "from": "input",
            "summary": "nothing is connected" if geo is None else repr(geo)[5:-1],
        }
        for name, geo in scope.inputs.items()
    ]
    return found


def describe_members(scope: Scope) -> dict[str, list[dict[str, Any]]]:
    """Return what can stand after a dot, by what stands before it: ``here``, the inputs, and places that questions
    find.
    """
    kind = scope.kind
    here = [
        {
            "name": word,
            "type": leads if (kind, word) in SINGLE else f"list of {PLURAL[leads]}",
            "from": "around",
            "summary": f"around the {kind}",
        }
        for word, leads in AROUND[kind].items()
    ]
    members = {"here": [*here, *_on(scope, kind)]}
    for name, geo in scope.inputs.items():
        questions = [
            {"name": asked, "type": entry.told_type, "from": "question", "summary": f"{entry.usage}: {entry.summary}"}
            for asked, entry in QUESTIONS.items()
        ]
        if geo is None:
            members[name] = questions
            continue
        inner = Scope(geo, "whole")
        lists = [
            {"name": plural, "type": f"list of {plural}", "from": "elements", "summary": f"{geo.topology.count(on):,}"}
            for plural, on in ASKED.items()
            if geo.topology.count(on)
        ]
        members[name] = [*questions, *lists, *_on(inner, "whole")]
        for on in ("point", "face"):
            members[f"{name}.{PLURAL[on]}"] = _on(Scope(geo, on), on)
    for word, leads in AROUND[kind].items():
        members[f"here.{word}"] = _on(Scope(scope.geo, leads), leads)
    members["()"] = [
        {"name": name, "type": str(type), "from": "place", "summary": "of the place that was found"}
        for name, type in {one.name: one.type for asked in QUESTIONS.values() for one in asked.fields}.items()
    ]
    return members


def _on(scope: Scope, kind: Kind) -> list[dict[str, Any]]:
    """Attributes and built-in values of a kind."""
    found = []
    for name, attribute in scope.geo.attributes[kind].items():
        about = describe_attribute(name, attribute)
        found.append({**about, "from": "attribute", "unit": unit_of(name), "summary": _range_of(about, len(attribute))})
    known = {entry["name"] for entry in found}
    found += [
        {"name": name, "type": entry.type.name, "from": "built-in", "summary": entry.summary}
        for name, entry in BUILTINS.items()
        if kind in entry.read and name not in known
    ]
    return found


def _range_of(about: dict[str, Any], count: int) -> str:
    if "members" in about:
        return f"group of {about['members']:,} of {count:,}"
    if "low" in about:
        spans = [f"{low:.4g} to {high:.4g}" for low, high in zip(about["low"], about["high"], strict=True)]
        return ", ".join(dict.fromkeys(spans))
    return ""


def _type_of(value: Any) -> str:
    if isinstance(value, (list, tuple)):
        return f"vec{len(value)}"
    return {bool: "flag", int: "integer", float: "number"}.get(type(value), "text")


def values_in_words(values: AnyArray, type: str) -> str:
    """Return in words what a formula gave: how many hold, or the range."""
    if not len(values):
        return "no elements"
    if type == "flag":
        held = int(values.sum())
        return f"{held:,} of {len(values):,} ({held / len(values):.1%})"
    if type == "text":
        return f"{len(np.unique(values)):,} different texts"
    flat = as_rows(values)
    low, high = flat.min(axis=0), flat.max(axis=0)
    spans = [f"{a:.4g}" if a == b else f"{a:.4g} to {b:.4g}" for a, b in zip(low, high, strict=True)]
    return ", ".join(spans)
