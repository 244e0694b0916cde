"""Fill: faces for open borders and closed curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo, SourceMap, carry, edges_along, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import Filling
from reticula.core.geometry.remesh.harmonic import Harmonic
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, KindChoice, Number, Selection, Toggle
from reticula.core.operators.shared.fillings import FillHow, border_fillings, curve_fillings

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
        Choice(
            "rule",
            "even-odd",
            "what lies inside where curves lie in each other or cross",
            options={
                "even-odd": "what an odd number of curves surrounds: holes by turns",
                "non-zero": "what curves wind around: one that runs backwards makes a hole",
            },
            shown_when=("what", "curve"),
        ),
        Toggle(
            "use_points",
            True,
            "loose points inside become points of the triangles",
            shown_when=("using", ["triangles", "even"]),
        ),
        Toggle("keep_curves", False, "keep the curves that were filled", shown_when=("what", "curve")),
        GroupName("fill_group", "fill", "face group that receives the new faces", kind="face"),
    ),
)
def fill(
    geo: Geo,
    *,
    what: str,
    where: Flags,
    using: str,
    across: float,
    rule: str,
    use_points: bool,
    keep_curves: bool,
    fill_group: str,
) -> Geo:
    """Close open borders, or fill closed curves, with faces.

    Borders are used as they are, so that the mesh is watertight there, and new faces run as those beside them. Even:
    points of a triangular lattice inside, denser where the border's edges are short, and constrained Delaunay
    triangulation; on a border that is not flat their height is that of a membrane (harmonic). Long edges of curves are
    divided then. What closed curves of one plane enclose goes by the rule, also where they touch or cross.
    """
    shape = geo.topology
    how = FillHow(using, across, rule, use_points)
    fillings, face_source = border_fillings(geo, where, how) if what == "edge" else curve_fillings(geo, where, how)
    if not fillings:
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
