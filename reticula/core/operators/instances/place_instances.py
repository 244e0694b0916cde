"""Place instances: shapes on points."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Attribute, Geo, Kind, Topology
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.mesh.identity import unit_random
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Integer, PerElement, Selection, Toggle
from reticula.core.rows import unit

__all__ = ["place_instances"]


@operator(
    "place_instances",
    family="instances",
    inputs=(
        Input("geo", "geometry with the points"),
        Input("shapes", "shapes to place, numbered from 0 in order", many=True, own_space=True),
    ),
    keywords=("copy", "scatter", "duplicate", "array", "populate", "stamp", "clone"),
    sections={
        "which shape": ("choose", "number", "seed"),
        "turn": ("turn", "normal", "up", "spin"),
    },
    carries=(
        "Instances receive all attributes of their point, their own number as instance_index and "
        "their point's as point_index. "
        "The shapes keep theirs. Kept points keep everything."
    ),
    example="""
        ball = geodesic_sphere(frequency=20)
        spots = scatter(ball, total=120, arrangement="even")
        polyp = cone(radius=0.03, top_radius=0.012, height=0.12)
        place_instances(spots, polyp, scale="0.6 + 0.8 * random()", keep_geo=True)
    """,
    related=("flatten_instances", "scatter", "frames"),
    parameters=(
        Selection.each("point", "points to place on; empty means all"),
        Choice(
            "choose",
            "by number",
            "which of several shapes",
            options={"by number": "the number below, counted round", "at random": "any of them, stable under changes"},
        ),
        PerElement(
            "number",
            {"formula": "index"},
            "number of the shape",
            on="point",
            soft=(0, 10),
            step=1,
            shown_when=("choose", "by number"),
        ),
        Integer("seed", 1, "another number gives another choice", soft=(0, 100), shown_when=("choose", "at random")),
        PerElement(
            "scale",
            1.0,
            "size; multiplied with the point attribute scale, if there is one",
            on="point",
            soft=(0.0, 3.0),
        ),
        Choice(
            "turn",
            "normal",
            "how shapes are turned",
            options={
                "normal": "their y axis along the normal, their z axis as near to up as can be",
                "rotation": "by the point attribute rotation, a quaternion",
                "not": "as they are",
            },
        ),
        PerElement(
            "normal",
            {"formula": "normal"},
            "where the shape's y axis points",
            on="point",
            type="vec3",
            soft=(-1, 1),
            shown_when=("turn", "normal"),
        ),
        PerElement(
            "up",
            [0.0, 0.0, 1.0],
            "where the shape's z axis points, as far as it can",
            on="point",
            type="vec3",
            soft=(-1, 1),
            shown_when=("turn", "normal"),
        ),
        PerElement("spin", 0.0, "turns the shape about its y axis", unit="°", on="point", soft=(-180, 180), step=1),
        Toggle("keep_geo", False, "keep the geometry with the points"),
    ),
)
def place_instances(
    geo: Geo,
    shapes: Sequence[Geo],
    *,
    where: Flags,
    choose: str,
    number: Floats,
    seed: int,
    scale: Floats,
    turn: str,
    normal: Floats,
    up: Floats,
    spin: Floats,
    keep_geo: bool,
) -> Geo:
    """Place a shape on every point, as an instance: it is stored once and drawn many times.

    Points without a normal use y. Instances stay instances through transform, join and groups; flatten instances turns
    them into mesh.
    """
    if not shapes:
        raise GeometryError("there is nothing to place; give a shape")
    chosen = np.flatnonzero(where)
    if not len(chosen):
        warn("No point is marked, so nothing was placed.")
    count = len(shapes)
    if choose == "at random":
        which = np.minimum((unit_random(geo.identity("point"), seed)[chosen] * count).astype(np.int64), count - 1)
    else:
        which = np.floor(number[chosen]).astype(np.int64) % count
    matrix = _matrices(geo, chosen, scale, turn, normal, up, spin)
    named = {name: found.take(chosen) for name, found in geo.attributes["point"].items() if name != "position"}
    named |= {
        "shape": Attribute.of(which, "integer"),
        "transform": Attribute("mat4", as_readonly(matrix)),
        "instance_index": Attribute.of(np.arange(len(chosen)), "integer"),
        "point_index": Attribute.of(chosen, "integer"),
    }
    alone = Geo(
        Topology(0, instance_count=len(chosen)),
        {"point": {"position": Attribute.of(np.zeros((0, 3)), "vec3")}, "instance": named},
        identity={"instance": geo.identity("point")[chosen]},
        prototypes=shapes,
    )
    note(f"{len(chosen):,} instances of {count:,} shapes.")
    if keep_geo:
        return concatenate([geo, alone])
    rest: dict[Kind, Mapping[str, Attribute]] = {
        "whole": geo.attributes["whole"],
        "point": {n: f.take(np.zeros(0, np.int64)) for n, f in geo.attributes["point"].items()},
    }
    kinds: tuple[Kind, ...] = ("edge", "corner", "face", "curve")
    rest |= {kind: {n: f.take(np.zeros(0, np.int64)) for n, f in geo.attributes[kind].items()} for kind in kinds}
    old = {**geo.attributes["instance"]} if geo.topology.instance_count else {}
    if old:
        warn("The instances of the first input were left out; keep the geometry, or flatten them first.")
    else:
        named = {**{n: f.take(np.full(len(chosen), -1)) for n, f in geo.attributes["instance"].items()}, **named}
    return Geo(alone.topology, {**rest, "instance": named}, identity=alone.own_identity, prototypes=shapes)


def _matrices(geo: Geo, chosen: AnyArray, scale: Floats, turn: str, normal: Floats, up: Floats, spin: Floats) -> Floats:
    """Matrices ``(N, 4, 4)`` from a shape's space to the place and direction of each point."""
    count = len(chosen)
    axes = np.tile(np.eye(3), (count, 1, 1))
    if turn == "normal":
        y = unit(np.ascontiguousarray(normal[chosen]))
        y[~y.any(axis=1)] = [0.0, 1.0, 0.0]
        z = up[chosen] - np.einsum("ij,ij->i", up[chosen], y)[:, None] * y
        lost = np.linalg.norm(z, axis=1) < 1e-9 * np.maximum(np.linalg.norm(up[chosen], axis=1), 1e-300)
        helper = np.eye(3)[np.abs(y).argmin(axis=1)]
        z[lost] = (helper - np.einsum("ij,ij->i", helper, y)[:, None] * y)[lost]
        z = unit(z)
        axes = np.stack([np.cross(y, z), y, z], axis=2)
    elif turn == "rotation":
        found = geo.attributes["point"].get("rotation")
        if found is None or found.type != "vec4":
            raise GeometryError("there is no point attribute rotation; make it (frames does), or give a normal instead")
        from scipy.spatial.transform import Rotation

        q = found.values[chosen]
        ok = np.linalg.norm(q, axis=1) > 0
        axes[ok] = Rotation.from_quat(q[ok]).as_matrix()
    angle = np.radians(spin[chosen])
    if angle.any():
        c, s, zero, one = np.cos(angle), np.sin(angle), np.zeros(count), np.ones(count)
        about = np.stack(
            [np.stack([c, zero, s], 1), np.stack([zero, one, zero], 1), np.stack([-s, zero, c], 1)], axis=1
        )
        axes = axes @ about
    size = np.repeat(scale[chosen][:, None], 3, axis=1)
    own = geo.attributes["point"].get("scale")
    if own is not None and own.type in ("number", "vec3"):
        size = size * own.values[chosen].reshape(count, -1)
    matrix = np.zeros((count, 4, 4))
    matrix[:, :3, :3] = axes * size[:, None, :]
    matrix[:, :3, 3], matrix[:, 3, 3] = geo.positions[chosen], 1.0
    return matrix
