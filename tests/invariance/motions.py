"""What tests of invariance share: shapes, motions, running operators, comparing, and what differs by design."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from reticula.core.arrays import ragged_index
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.geometry import Topology, carry, kept
from reticula.core.operators import OPERATORS
from reticula.core.operators.declaration.operator import Operator

LENGTHS = {"m": 1, "m²": 2, "m³": 3, "1/m": -1, "1/m²": -2, "1/m³": -3}


class Motion(NamedTuple):
    """``scale * position @ turn + move``; the places of results may differ by ``slack`` of their size."""

    scale: float
    move: tuple[float, float, float]
    turn: float
    slack: float

    def apply(self, geo: Geo) -> Geo:
        return geo.with_positions(self.scale * geo.positions @ self.matrix + np.array(self.move))

    def undo(self, places: np.ndarray) -> np.ndarray:
        return (places - np.array(self.move)) @ self.matrix.T / self.scale

    @property
    def matrix(self) -> np.ndarray:
        c, s = np.cos(self.turn), np.sin(self.turn)
        return np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]])


def uneven(geo: Geo) -> Geo:
    """Leave no two edges of a shape equally long, as they are on any scan; equal ones would be taken in any order."""
    x, y, z = geo.positions.T
    off = np.stack([np.sin(5 * y + 1) * np.cos(3 * z), np.sin(4 * x + 2 * z), np.cos(4 * y - x + 2)], axis=1)
    return geo.with_positions(geo.positions + 0.04 * off)


def ball() -> Geo:
    return uneven(ops.geodesic_sphere(frequency=4))


def sheet() -> Geo:
    return uneven(ops.grid(cells=(6, 5)))


def ring() -> Geo:
    """Flat, for what wants curves in a plane."""
    circle = ops.circle(segments=13)
    return circle.with_positions(uneven(circle).positions * [1, 0, 1])


SHAPES = {"ball": ball, "sheet": sheet, "ring": ring}
NAMES = [
    name
    for name, entry in OPERATORS.items()
    if entry.family not in {"sources", "operators of your own"} and entry.inputs and entry.writes is None
]


def lengths(entry: Operator, scale: float) -> dict[str, object]:
    """The defaults that are lengths, areas and so on, at a scale."""
    out: dict[str, object] = {}
    for parameter in entry.parameters:
        power, default = LENGTHS.get(getattr(parameter, "unit", ""), 0), parameter.default
        if power and isinstance(default, int | float) and not isinstance(default, bool):
            out[parameter.name] = default * scale**power
        elif power and isinstance(default, list | tuple) and default and isinstance(default[0], int | float):
            out[parameter.name] = [value * scale**power for value in default]
    return out


def run(name: str, shape: Geo, motion: Motion | None = None) -> list[Geo] | str:
    entry = OPERATORS[name]
    second = ops.transform(shape, scale=(0.7, 0.8, 0.9), turn=(20, 35, 50), move=(0.13, 0.21, 0.07))
    given = [shape] + [second] * (len(entry.inputs) - 1)
    given = [motion.apply(geo) for geo in given] if motion else given
    wanted = [[geo] if wish.many else geo for geo, wish in zip(given, entry.inputs, strict=True)]
    with collecting():
        try:
            return list(entry.run(wanted, entry.check(lengths(entry, motion.scale if motion else 1.0))))
        except ReticulaError:
            return "told"


def differs(before: list[Geo] | str, after: list[Geo] | str, motion: Motion, in_order: bool = True) -> str:
    if isinstance(before, str) or isinstance(after, str):
        return "" if before == after else f"{before!s:.60} became {after!s:.60}"
    for one, other in zip(before, after, strict=True):
        if one.counts != other.counts:
            return f"{one.counts} became {other.counts}"
        if one.counts["points"] == 0:
            continue
        places = motion.undo(other.positions)
        size = max(float(np.ptp(one.positions, axis=0).max()), 1e-9)
        if in_order:
            off = float(np.abs(places - one.positions).max()) / size
        else:
            off = max(
                float(cKDTree(a).query(b)[0].max()) for a, b in ((places, one.positions), (one.positions, places))
            )
        if off > motion.slack:
            return f"places are off by {off:.2g} of the size"
    return ""


def shuffled(geo: Geo, seed: int = 5) -> Geo:
    """The same shape with its points and faces in another order."""
    random, shape = np.random.default_rng(seed), geo.topology
    order = random.permutation(shape.point_count)
    number = np.argsort(order)
    faces = random.permutation(shape.face_count)
    flat, start = ragged_index(shape.face_start, faces)
    topology = Topology(
        shape.point_count,
        start,
        number[shape.corner_point[flat]],
        shape.curve_start,
        number[shape.curve_point],
        shape.curve_closed,
    )
    return carry(geo, topology, {"point": kept(order), "face": kept(faces), "corner": kept(flat)})


BY_PLACE = {
    "displace": "noise of the place",
    "script": "its example writes a function of the place",
    "slice": "a plane through the origin",
    "cut_by_value": "the height above the origin",
    "mirror": "a plane through the origin",
    "sweep": "with a profile its radius is a factor, not a length",
}
"""Operators whose defaults say where in the world something is."""
BY_AXES = {
    "pull_apart": "away from the middle of the box around everything",
    "scatter_in_volume": "random places in the box around everything",
}
"""Operators whose defaults say in which direction something is."""
BY_NUMBER = {
    "scatter": "random place n lies on a face that the order tells",
    "scatter_in_region": "random place n lies on a face that the order tells",
    "remove": "its example marks every second element",
    "split_by_group": "its example marks by number",
}
"""Operators whose defaults go by the number of an element."""
ANY_ORDER = {"boolean", "break_into_cells", "struts"}
"""Operators whose new points have the order in which a sweep through space, or a hull, finds them."""


def same_at(kind: str, name: str, motion: Motion) -> str:
    make = SHAPES[kind]
    return differs(run(name, make()), run(name, make(), motion), motion, name not in ANY_ORDER)
