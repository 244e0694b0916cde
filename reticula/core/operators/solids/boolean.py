"""Boolean: union, difference and intersection of solids."""

from __future__ import annotations

from collections.abc import Sequence

import manifold3d
import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, triangles
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, GroupName
from reticula.core.operators.shared.solids.flat_sheets import flat_normal, flat_sheets
from reticula.core.operators.shared.solids.sheet_cuts import cut_sheet
from reticula.core.operators.shared.solids.solid_assembly import TracedTriangles, assemble
from reticula.core.reports.concatenation import concatenate_and_tell
from reticula.core.rows import rows_at

__all__ = ["boolean"]

WORD = {
    "union": manifold3d.OpType.Add,
    "difference": manifold3d.OpType.Subtract,
    "intersection": manifold3d.OpType.Intersect,
}


@operator(
    "boolean",
    family="solids",
    inputs=(Input("geo", "the solid to work on"), Input("others", "solids to add, take away or meet", many=True)),
    keywords=("union", "difference", "intersection", "subtract", "add", "combine", "cut out", "csg", "drill"),
    carries=(
        "Carries all: every face knows the face it is part of, points and corners on new edges are "
        "interpolated on that face. "
        "Where only some inputs have an attribute, the others get its default; a point where solids "
        "meet has the value of the first that has the attribute. Curves and loose points of the first "
        "input stay. What nothing cuts keeps its positions and values to the bit. "
        "Edge values are kept on edges that stay whole."
    ),
    example="""
        block = box(size=[0.9, 0.5, 0.9])
        hole = transform(geodesic_sphere(radius=0.38, frequency=12), move=[0.2, 0.25, 0.1])
        boolean(block, hole, operation="difference")
    """,
    related=("slice", "join", "break_into_cells"),
    parameters=(
        Choice(
            "operation",
            "difference",
            "what to make",
            options={
                "union": "everything that is in any of them",
                "difference": "the first without the others",
                "intersection": "what is in all of them",
            },
        ),
        GroupName("other_group", "from_others", "face group that receives faces of the other solids", kind="face"),
        GroupName("seam_group", "seam", "edge group that receives the edges where solids meet", kind="edge"),
    ),
)
def boolean(geo: Geo, others: Sequence[Geo], *, operation: str, other_group: str, seam_group: str) -> Geo:
    """Unite solids, take them away from each other, or keep what they share; or cut a sheet.

    Exact on which side is which: the Manifold library's symbolic perturbation; the result is always closed. Faces that
    nothing cuts stay the polygons they were; cut ones become triangles. Solids must be closed; faces that wind
    against each other are an error.

    If the first input is open, it is a sheet. Sheets in one plane are put together in it, a union also with themselves
    where their own faces overlap; where several lie, the first one counts. Else the sheet is cut where
    the others cross it: the difference keeps what lies outside of a solid (or before a sheet), the intersection what
    lies inside (or behind), the union both; the face group ``inside`` and the seam say which is which.
    """
    parts = [geo, *(other for other in others if other.topology.face_count)]
    if not geo.topology.face_count:
        raise GeometryError("the first input has no faces; give a closed mesh")
    if len(parts) == 1 and (operation != "union" or flat_normal(parts) is None):
        warn("Nothing else is connected, so nothing changed.")
        empty = geo.with_attribute("face", other_group, np.zeros(geo.topology.face_count, bool))
        return empty.with_attribute("edge", seam_group, np.zeros(geo.topology.edge_count, bool))
    if geo.topology.border_edges.any():
        return _of_sheets(parts, operation, other_group, seam_group)
    names = ["the first input", *(f"input {n + 2}" for n in range(len(parts) - 1))]
    center = _center(parts)
    solids = [_solid(part, name, center) for part, name in zip(parts, names, strict=True)]
    made = manifold3d.Manifold.batch_boolean([solid for solid, _ in solids], WORD[operation])
    mesh = made.to_mesh64()
    both = concatenate_and_tell(parts)
    traced = _traced(parts, [run for _, run in solids], mesh)
    result, origin = assemble(both, parts, traced, center)
    first = parts[0].topology.face_count
    other = origin >= first
    shape = result.topology
    owner = np.searchsorted(np.cumsum([part.topology.face_count for part in parts]), origin, side="right")
    sides = owner[shape.corner_face[shape.edge_corners[1]]]
    begin = shape.edge_corners[0][:-1]
    seam = np.zeros(0, bool)
    if shape.edge_count:
        seam = np.minimum.reduceat(sides, begin) != np.maximum.reduceat(sides, begin)
    if not shape.face_count:
        warn("Nothing is left: the solids do not overlap." if operation == "intersection" else "Nothing is left.")
    elif not seam.any():
        warn("The solids do not touch; check where they lie.")
    note(
        f"{shape.face_count:,} faces, {int(other.sum()):,} of them from the other solids; volume "
        f"{made.volume():.6g} m³."
    )
    made = result.with_attribute("face", other_group, other).with_attribute("edge", seam_group, seam)
    rest = subset(geo, np.zeros(geo.topology.face_count, bool))
    return concatenate([made, rest]) if rest.topology.point_count or rest.topology.instance_count else made


def _of_sheets(parts: Sequence[Geo], operation: str, other_group: str, seam_group: str) -> Geo:
    """The same for an open first input: flat sheets in one plane, or a sheet and what it is cut by."""
    normal = flat_normal(parts)
    if normal is not None:
        made, origin = flat_sheets(parts, normal, operation)
        made = made.with_attribute("face", other_group, origin >= parts[0].topology.face_count)
        return made.with_attribute("edge", seam_group, made.topology.border_edges)
    cut, within, seam = cut_sheet(parts[0], parts[1:])
    made = cut.with_attribute("face", "inside", within).with_attribute("edge", seam_group, seam)
    note(f"{int(within.sum()):,} faces of the sheet lie inside, {int((~within).sum()):,} outside.")
    if operation != "union":
        made = subset(made, within if operation == "intersection" else ~within)
    return made.with_attribute("face", other_group, np.zeros(made.topology.face_count, bool))


def _center(parts: Sequence[Geo]) -> Floats:
    """The middle of all parts ``(3,)``: what is worked out near it keeps its digits wherever the parts lie."""
    low = np.min([part.positions.min(axis=0) for part in parts], axis=0)
    return np.asarray((low + np.max([part.positions.max(axis=0) for part in parts], axis=0)) / 2)


def _solid(geo: Geo, name: str, center: Floats) -> tuple[manifold3d.Manifold, int]:
    """A solid with an id of its own whose triangles carry the numbers of ours."""
    cut = triangles(geo)
    shape = geo.topology
    tri = shape.corner_point[cut.corner]
    used, local = _numbered(tri, shape.point_count)
    run = int(manifold3d.Manifold.reserve_ids(1))
    mesh = manifold3d.Mesh64(
        np.ascontiguousarray(geo.positions[used] - center),
        np.ascontiguousarray(local.reshape(-1, 3)),
        run_index=np.array([0, 3 * len(tri)], np.uint64),
        run_original_id=np.array([run], np.uint32),
        face_id=np.arange(len(tri), dtype=np.uint64),
    )
    solid = manifold3d.Manifold(mesh)
    if solid.status() == manifold3d.Error.NotManifold:
        welded = weld_points(geo, cluster_by_distance(geo.positions, np.arange(shape.point_count), 0.0), average=False)
        if welded.topology.point_count < shape.point_count and not welded.topology.border_edges.any():
            raise GeometryError(
                f"{name} is not closed: faces lie side by side without sharing points; weld it first, "
                "then give a closed mesh"
            )
    if solid.status() != manifold3d.Error.NoError:
        open_ = int(shape.border_edges.sum())
        several = int((shape.edge_face_count > 2).sum())
        against = int((shape.edge_face_count == 2).sum() - (shape.corner_across >= 0).sum() // 2)
        why = [
            f"{open_:,} open border edges (fill closes them)" * bool(open_),
            f"{several:,} edges with more than two faces" * bool(several),
            f"{against:,} edges whose faces wind against each other (reverse turns faces)" * bool(against),
        ]
        reason = "; ".join(part for part in why if part) or str(solid.status()).rpartition(".")[2]
        raise GeometryError(f"{name} is not a solid: {reason}; give a closed mesh")
    if solid.volume() < 0:
        raise GeometryError(
            f"the faces of {name} look inwards; turn them with reverse, then give a solid that looks outwards"
        )
    return solid, run


def _numbered(tri: Indices, count: int) -> tuple[AnyArray, AnyArray]:
    """Which of ``count`` points triangles use, in order, and the triangles by the numbers of those."""
    have = np.zeros(count, bool)
    have[tri.reshape(-1)] = True
    used = np.flatnonzero(have)
    number = np.zeros(count, np.uint64)
    number[used] = np.arange(len(used), dtype=np.uint64)
    return used, rows_at(number, tri)


def _traced(parts: Sequence[Geo], runs: list[int], mesh: manifold3d.Mesh64) -> TracedTriangles:
    """Return the triangles of a result, each with the face of the concatenated ``parts`` that it is part of."""
    points = np.asarray(mesh.vert_properties, np.float64)[:, :3]
    tri = np.asarray(mesh.tri_verts, np.int64).reshape(-1, 3)
    if len(mesh.merge_from_vert):
        leader = np.arange(len(points))
        leader[np.asarray(mesh.merge_from_vert, np.int64)] = np.asarray(mesh.merge_to_vert, np.int64)
        tri = leader[tri]
    number = {run: n for n, run in enumerate(runs)}
    lengths = np.diff(np.asarray(mesh.run_index).astype(np.int64)) // 3
    runs_of = np.array([number[int(run)] for run in mesh.run_original_id], np.int64)
    part = np.repeat(runs_of, lengths.tolist()) if len(tri) else np.zeros(0, np.int64)
    faces = np.cumsum([0, *(p.topology.face_count for p in parts)])
    corners = np.cumsum([0, *(p.topology.corner_count for p in parts)])
    cuts = [triangles(p) for p in parts]
    first = np.cumsum([0, *(len(cut.face) for cut in cuts)])
    source = first[part] + np.asarray(mesh.face_id, np.int64)
    all_corner = np.concatenate([cut.corner + corners[n] for n, cut in enumerate(cuts)])
    all_face = np.concatenate([cut.face + faces[n] for n, cut in enumerate(cuts)])
    order = np.argsort(all_face[source], kind="stable")
    source = source[order]
    return TracedTriangles(points, tri[order], all_corner[source], all_face[source], part[order])
