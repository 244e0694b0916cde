"""Plain Python as the judge: runs a script as what it is, Python, with stand-ins for what the language adds.

Nothing of the language takes part: names are looked up in arrays, functions are those of Python's ``math``, and what a
script writes is gathered in dictionaries.
"""

from __future__ import annotations

import ast
import builtins
import math
from typing import Any

import numpy as np

from reticula.core import Geo


class Vec(tuple):
    """A vector of Python floats with arithmetic by component and letters for components."""

    __slots__ = ()

    def _with(self, other: Any, do: Any) -> Vec:
        others = other if isinstance(other, tuple) else (other,) * len(self)
        return Vec(do(a, b) for a, b in zip(self, others, strict=True))

    def __add__(self, other: Any) -> Vec:  # type: ignore[override]
        return self._with(other, lambda a, b: a + b)

    def __sub__(self, other: Any) -> Vec:
        return self._with(other, lambda a, b: a - b)

    def __mul__(self, other: Any) -> Vec:  # type: ignore[override]
        return self._with(other, lambda a, b: a * b)

    __radd__ = __add__
    __rmul__ = __mul__

    def __rsub__(self, other: Any) -> Vec:
        return self._with(other, lambda a, b: b - a)

    def __neg__(self) -> Vec:
        return Vec(-a for a in self)

    def __getattr__(self, letters: str) -> Any:
        if letters.startswith("_") or letters.strip("xyzw"):
            raise AttributeError(letters)
        parts = [self["xyzw".index(letter)] for letter in letters]
        return parts[0] if len(parts) == 1 else Vec(parts)


class Element:
    """An element of the geometry before the script; what is written to it is kept apart."""

    def __init__(self, world: World, kind: str, number: int) -> None:
        object.__setattr__(self, "_at", (world, kind, number))

    def __getattr__(self, name: str) -> Any:
        world, kind, number = self._at
        if (kind, number) == ("point", world.here) and name in world.own:
            return world.own[name]
        if name == "neighbours":
            return [Element(world, "point", other) for other in world.neighbours[number]]
        if name == "index":
            return number
        return world.read(name, number)

    def __setattr__(self, name: str, value: Any) -> None:
        world, _, number = self._at
        if number == world.here:
            world.own[name] = value
        else:
            raise AssertionError("only here is written")


class World:
    """Runs a script on each point of a geometry."""

    def __init__(self, geo: Geo) -> None:
        self.geo = geo
        shape = geo.topology
        self.neighbours: list[list[int]] = [[] for _ in range(shape.point_count)]
        for a, b in shape.edges.tolist():
            self.neighbours[a].append(b)
            self.neighbours[b].append(a)
        start, edges = shape.point_edges
        for point in range(shape.point_count):
            ends = shape.edges[edges[start[point] : start[point + 1]]].sum(axis=1) - point
            self.neighbours[point] = ends.tolist()
        self.here = -1
        self.own: dict[str, Any] = {}

    def read(self, name: str, number: int) -> Any:
        value = self.geo.attribute("point", name)[number].tolist()
        return Vec(value) if isinstance(value, list) else value

    def run(self, source: str) -> list[dict[str, Any]]:
        tree = ast.fix_missing_locations(_Tuples().visit(ast.parse(source)))
        code = compile(tree, "script", "exec")
        results = []
        for number in range(self.geo.topology.point_count):
            self.here, self.own = number, {}
            names = {name: self.read(name, number) for name in self.geo.attributes["point"]}
            scope = {**FUNCTIONS, **names, "here": Element(self, "point", number), "index": number, "Vec": Vec}
            exec(code, scope)
            results.append(self.own)
        return results


class _Tuples(ast.NodeTransformer):
    """Makes vectors of tuples that are read."""

    def visit_Tuple(self, node: ast.Tuple) -> Any:
        self.generic_visit(node)
        if isinstance(node.ctx, ast.Store):
            return node
        return ast.copy_location(ast.Call(ast.Name("Vec", ast.Load()), [node], []), node)


def _fold(how: Any) -> Any:
    return lambda first, *rest: how(first, *rest) if rest else (how(first) if len(first) else 0)


def _clamp(x: float, low: float, high: float) -> float:
    return builtins.min(builtins.max(x, low), high)


FUNCTIONS: dict[str, Any] = {
    "sin": math.sin,
    "cos": math.cos,
    "atan2": math.atan2,
    "hypot": math.hypot,
    "exp": math.exp,
    "sqrt": lambda x: math.sqrt(x) if x >= 0 else math.nan,
    "floor": lambda x: float(math.floor(x)),
    "fract": lambda x: x - math.floor(x),
    "abs": builtins.abs,
    "min": _fold(builtins.min),
    "max": _fold(builtins.max),
    "sum": lambda items: builtins.sum(items),
    "mean": lambda items: builtins.sum(items) / len(items) if items else 0.0,
    "len": len,
    "range": range,
    "clamp": _clamp,
    "mix": lambda a, b, t: a * (1 - t) + b * t,
    "integer": int,
    "number": float,
    "dot": lambda a, b: builtins.sum(x * y for x, y in zip(a, b, strict=True)),
    "length": lambda v: math.sqrt(builtins.sum(x * x for x in v)),
    "any": builtins.any,
    "all": builtins.all,
}


def check_close(found: np.ndarray, wanted: list[Any], what: str) -> None:
    """Fail unless whole numbers and flags are the same and numbers agree to the last bit."""
    expected = np.array([tuple(value) if isinstance(value, tuple) else value for value in wanted])
    if expected.dtype.kind in "bi":
        assert (found == expected).all(), f"{what}: {found} is not {expected}"
    else:
        np.testing.assert_array_equal(found, expected, err_msg=what)
