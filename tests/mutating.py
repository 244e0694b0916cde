"""Requests as somebody gets them wrong: parts replaced, removed, doubled, renamed."""

from __future__ import annotations

import copy
import random
from collections.abc import Callable, Iterator
from typing import Any

ODD: list[Any] = [
    None, True, -1, 0, 2**63, 1e308, -1e-308, "", "x" * 300, "山", "\x00", "../..", "a:b:c", "1 +", "vec3(", [], {},
    [[]], {"formula": "1/0"}, {"formula": ""}, {"dial": "x"}, {"": ""}, ["a"] * 50, [1, 2, 3, 4, 5], {"op": "copy"},
    10**400,
]  # fmt: skip
DOCUMENT: dict[str, Any] = {
    "format": "reticula graph",
    "version": 1,
    "title": "Reef",
    "looking_at": "tall",
    "dials": {"height": {"type": "number", "value": 0.5}},
    "nodes": {
        "sheet": {"operator": "grid", "parameters": {"cells": [4, 4], "size": [1.0, 1.0]}, "place": [0, 0]},
        "tall": {
            "operator": "extrude",
            "inputs": {"geo": ["sheet"]},
            "parameters": {"distance": {"formula": "height"}, "where": "index > 2"},
        },
        "text": {"operator": "script", "inputs": {"geo": ["tall"]}, "parameters": {"source": "here.a = 1"}},
    },
}


def places(data: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    yield path
    if isinstance(data, dict):
        for key in data:
            yield from places(data[key], (*path, key))
    elif isinstance(data, list):
        for number in range(len(data)):
            yield from places(data[number], (*path, number))


def mutated(data: Any, rng: random.Random) -> Any:
    """The data with one or two parts replaced, removed, doubled or renamed."""
    made = copy.deepcopy(data)
    for _ in range(rng.choice([1, 1, 2])):
        *way, last = rng.choice([path for path in places(made) if path])
        around = made
        for part in way:
            around = around[part]
        match rng.randrange(5):
            case 0 if isinstance(around, dict):
                around[rng.choice(["", "x", "nodes", "a b", "山", "x" * 200])] = around.pop(last)
            case 1:
                del around[last]
            case 2 if isinstance(around, list):
                around.insert(rng.randrange(len(around) + 1), copy.deepcopy(around[last]))
            case _:
                around[last] = copy.deepcopy(rng.choice(ODD))
        if not any(True for path in places(made) if path):
            break
    return made


def bodies(graph: dict[str, Any]) -> dict[str, tuple[Callable[[Any], str], Any]]:
    own = f"/api/graphs/{graph['id']}"
    draft = [{"op": "replace", "path": "/nodes/tall/parameters/distance", "value": 0.25}]
    return {
        "document": (lambda body: f"/api/projects/{graph['project_id']}/graphs", {"title": "T", "document": DOCUMENT}),
        "edit": (lambda body: f"{own}/edits", {"revision": 0, "patch": draft, "label": "l", "key": "k"}),
        "change": (
            lambda body: f"{own}/changes",
            {"level": "", "draft": draft, "change": {"what": "fold", "nodes": ["sheet", "tall"], "title": "t"}},
        ),
        "rename": (
            lambda body: f"{own}/changes",
            {"level": "", "change": {"what": "rename node", "node": "tall", "title": "t"}},
        ),
        "rewrite": (
            lambda body: f"{own}/rewrites",
            {"node": "tall", "parameter": "distance", "to": "nodes", "level": "", "draft": []},
        ),
        "settings": (lambda body: "/api/settings", {"author": "a"}),
    }
