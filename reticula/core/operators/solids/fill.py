"""Fill: faces for open borders and closed curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, SourceMap, carry, edges_along, kept
from reticula.core.geometry.edit.subset import any_of_row, subset
from reticula.core.geometry.planar.boundary_loops import border_loops, loop_normals
from reticula.core.geometry.planar.region_fill import Filling, fill_region, nest_loops, project_to_plane
from reticula.core.geometry.remesh.harmonic import Harmonic
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, KindChoice, Number, Selection, Toggle

__all__ = ["fill"]


@operator(
    "fill",
    family="topology",
    keywords=("cap", "close", "hole", "patch", "lid", "bridge", "even mesh"),
    carries=(
        "Carries all. New faces copy the face beside the first edge of their border, their corners "
        "and any new points blend the "
        "values of the border's points; faces over curves get defaults."
    ),
    parameters=(
        KindChoice.of(
            ("edge", "curve"), "edge", "what to close: open borders, or closed curves with holes", name="what"
        ),
        Selection("where", "", "which: a border loop counts if one of its edges is marked; empty means all", on="what"),
        Choice(
            "using",
            "polygon",
            "what with",
            options={
                "polygon": "one face per loop (curves with holes get triangles)",
                "triangles": "triangles between the border's points",
                "even": "triangles with points inside, about equally spaced",
            },
        ),
        Number(
            "across",
            12.0,
            "about how many edges lie across the shape, whatever its size",
            soft=(2.0, 40.0),
            low=1.0,
            high=2000.0,
            step=1.0,
            shown_when=("using", "even"),
        ),
        Toggle("keep_curves", False, "keep the curves that were filled", shown_when=("what", "curve")),
        GroupName("fill_group", "fill", "face group that receives the new faces", kind="face"),
    ),
)
def fill(geo: Geo, *, what: str, where: Flags, using: str, across: float, keep_curves: bool, fill_group: str) -> Geo:
    """Close open borders, or fill closed curves, with faces.

    The border's points are used as they are, so that the mesh is watertight there. Even: points of a triangular
    lattice inside, constrained Delaunay triangulation; on a border that is not flat their height is that of a membrane
    (harmonic). Closed curves in one plane are holes of each other by turns, counted from outside.
    """
    shape = geo.topology
    if what == "edge":
        fillings, face_source = _over_borders(geo, where, using, across)
    else:
        fillings, face_source = _over_curves(geo, where, using, across)
    if not fillings:
        warn("There is no open border to fill." if what == "edge" else "There is no closed curve to fill.")
        return geo.with_attribute("face", fill_group, np.zeros(shape.face_count, bool))
    added = np.concatenate([filling.added for filling in fillings])
    sizes = np.concatenate([np.diff(filling.start) for filling in fillings])
    corners = np.concatenate([filling.point for filling in fillings])
    topology = shape.with_faces(
        shape.point_count + len(added),
        np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(sizes)]),
        np.concatenate([shape.corner_point, corners]),
    )
    blend = Harmonic(shape.point_count, topology, shape.face_count) if len(added) else None
    beside = _corner_beside(geo)
    old = np.where(
        corners < shape.point_count,
        beside[np.minimum(corners, max(shape.point_count - 1, 0))] if shape.point_count else -1,
        -1,
    )
    positions = np.concatenate([geo.positions, added])
    if blend is not None and what == "edge":
        positions = _membrane(geo, blend, positions, fillings)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(
                as_readonly(np.concatenate([np.arange(shape.point_count), np.full(len(added), -1)]).astype(np.int32)),
                blend,
            ),
            "face": kept(np.concatenate([np.arange(shape.face_count), face_source])),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), old])),
            "edge": edges_along(topology, np.concatenate([shape.corner_edge, np.full(len(corners), -1)])),
        },
        positions=positions,
    )
    note(f"Made {len(sizes):,} faces.")
    made = made.with_attribute("face", fill_group, np.arange(topology.face_count) >= shape.face_count)
    if what == "curve" and not keep_curves:
        return subset(made, curves=~(where & shape.curve_closed))
    return made


def _over_borders(geo: Geo, where: Flags, using: str, across: float) -> tuple[list[Filling], AnyArray]:
    """Faces over the marked border loops, and the face beside each of them."""
    shape = geo.topology
    start, corner = border_loops(shape)
    marked = np.flatnonzero(any_of_row(start, where[shape.corner_edge[corner]]))
    flat, start = ragged_index(start, marked)
    corner = corner[flat]
    beside = shape.corner_face[corner[start[:-1]]] if len(marked) else np.zeros(0, np.int64)
    step = np.arange(len(corner)) - np.repeat(start[:-1], np.diff(start))
    point = shape.corner_point[corner][np.repeat(start[1:] - 1, np.diff(start)) - step]
    if using == "polygon":
        return [Filling(start, point, np.zeros((0, 3)))] * bool(len(marked)), beside
    normals = loop_normals(geo.positions, start, point)
    fillings: list[Filling] = []
    skipped, count = 0, shape.point_count
    for first, last, normal in zip(start, start[1:], normals, strict=False):
        try:
            made = fill_region(geo.positions, [point[first:last]], normal, using, across, count)
        except GeometryError:
            made, skipped = (
                fill_region(geo.positions, [point[first:last]], normal, "polygon", across, count),
                skipped + 1,
            )
        fillings.append(made)
        count += len(made.added)
    if skipped:
        warn(f"{skipped:,} borders cross themselves when laid flat and were closed with one polygon each.")
    return fillings, np.repeat(beside, [len(filling.start) - 1 for filling in fillings])


def _over_curves(geo: Geo, where: Flags, using: str, across: float) -> tuple[list[Filling], AnyArray]:
    shape = geo.topology
    chosen = np.flatnonzero(where & shape.curve_closed & (np.diff(shape.curve_start) >= 3))
    if int(where.sum()) > len(chosen):
        warn(f"{int(where.sum()) - len(chosen):,} curves are open and were not filled.")
    if not len(chosen):
        return [], np.zeros(0, np.int64)
    loops = [shape.curve_point[shape.curve_start[k] : shape.curve_start[k + 1]] for k in chosen]
    start = np.concatenate([[0], np.cumsum([len(loop) for loop in loops])]).astype(np.int32)
    normals = loop_normals(geo.positions, start, np.concatenate(loops))
    fillings: list[Filling] = []
    count = shape.point_count
    for members in _planes(geo, loops, normals):
        normal = normals[members[int(np.abs(np.linalg.norm(normals[members], axis=1)).argmax())]]
        flat = [project_to_plane(geo.positions[loops[m]], normal)[0] for m in members]
        for region in nest_loops(flat):
            rings = [loops[members[k]] for k in region]
            turned = [normals[members[k]] @ normal > 0 for k in region]
            rings = [
                ring if ccw == (n == 0) else ring[::-1] for n, (ring, ccw) in enumerate(zip(rings, turned, strict=True))
            ]
            fillings.append(fill_region(geo.positions, rings, normal, using, across, count))
            count += len(fillings[-1].added)
    return fillings, np.full(sum(len(filling.start) - 1 for filling in fillings), -1, np.int64)


def _planes(geo: Geo, loops: list[AnyArray], normals: Floats) -> list[AnyArray]:
    """Group loops that lie in one plane, whichever way they run; tolerances 1e-4 of a turn and of the whole size."""
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-12)
    length = np.linalg.norm(normals, axis=1, keepdims=True)
    unit = np.divide(normals, length, out=np.zeros_like(normals), where=length > 0)
    flip = np.where(np.take_along_axis(unit, np.abs(unit).argmax(axis=1)[:, None], 1) < 0, -1.0, 1.0)
    unit = unit * flip
    first = geo.positions[[loop[0] for loop in loops]]
    offset = np.einsum("ij,ij->i", first, unit) / size
    key = np.round(np.concatenate([unit, offset[:, None]], axis=1) / 1e-4).astype(np.int64)
    _, code = np.unique(key, axis=0, return_inverse=True)
    code = code.reshape(-1)
    return [np.flatnonzero(code == value) for value in range(int(code.max()) + 1)]


def _corner_beside(geo: Geo) -> AnyArray:
    """Some corner at each point ``(P,)``, -1 at points without faces."""
    start, corner = geo.topology.point_corners
    if not len(corner):
        return np.full(geo.topology.point_count, -1)
    return np.where(np.diff(start) > 0, corner[np.minimum(start[:-1], len(corner) - 1)], -1)


def _membrane(geo: Geo, blend: Harmonic, positions: Floats, fillings: list[Filling]) -> Floats:
    """Lift the added points of fillings whose border is not flat to the height of a membrane."""
    count = geo.topology.point_count
    out = positions.copy()
    soft: Floats | None = None
    for filling in fillings:
        inner = np.unique(filling.point[filling.point >= count])
        rim = np.unique(filling.point[filling.point < count])
        normal = loop_normals(positions, filling.start, filling.point).sum(axis=0)
        normal /= max(float(np.linalg.norm(normal)), 1e-300)
        if len(inner) and np.ptp(geo.positions[rim] @ normal) > 1e-9 * np.abs(positions[inner]).max(initial=1.0):
            soft = blend.apply(geo.positions) if soft is None else soft
            out[inner] += ((soft[inner] - positions[inner]) @ normal)[:, None] * normal
    return out
