"""Split faces: smaller faces, same shape."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, frozen, ragged_index, starts_from_sizes
from reticula.core.compiled import kernel
from reticula.core.errors import LimitError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.cutting import triangulated
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, GroupName, Integer, Where

__all__ = ["split_faces"]

MOST_FACES = 16_000_000
INTO = {"quads": 0, "triangles": 1, "fan": 2}


@kernel
def _split(
    into: int, chosen: Flags, insert: bool, face_start: Indices, corner_point: Indices, corner_edge: Indices,
    middle: Indices, center: Indices,
) -> tuple[Indices, Indices, Indices, Indices, Indices, Flags]:  # fmt: skip
    """Faces after one level. Sizes, sources, then per corner: point, source corner, what it is (0 the corner itself,
    1 the middle towards the next one, 2 the face's middle), and the old edge along its edge; last, what is a child."""
    room = faces = 0
    for f in range(len(face_start) - 1):
        n = face_start[f + 1] - face_start[f]
        room += (4 * n if into != 2 else 3 * n) if chosen[f] else 2 * n
        faces += n + 1 if chosen[f] else 1
    sizes, source = np.empty(faces, np.int32), np.empty(faces, np.int32)
    child = np.zeros(faces, np.bool_)
    corner = np.empty((room, 4), np.int32)
    at = number = 0
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        if not chosen[f]:
            row = at
            for c in range(first, last):
                e = corner_edge[c]
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[c], c, 0, e
                at += 1
                if insert and middle[e] >= 0:
                    corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[e], c, 1, e
                    at += 1
            sizes[number], source[number] = at - row, f
            number += 1
            continue
        for c in range(first, last):
            before = c - 1 if c > first else last - 1
            after = c + 1 if c + 1 < last else first
            e, back = corner_edge[c], corner_edge[before]
            corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[c], c, 0, e
            at += 1
            if into == 2:
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[after], after, 0, -1
                corner[at + 1, 0], corner[at + 1, 1], corner[at + 1, 2], corner[at + 1, 3] = center[f], c, 2, -1
                at += 2
                sizes[number] = 3
            else:
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[e], c, 1, -1
                at += 1
                if into == 0:
                    corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = center[f], c, 2, -1
                    at += 1
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[back], before, 1, back
                at += 1
                sizes[number] = 4 if into == 0 else 3
            source[number], child[number] = f, True
            number += 1
        if into == 1:
            for c in range(first, last):
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[corner_edge[c]], c, 1, -1
                at += 1
            sizes[number], source[number], child[number] = last - first, f, True
            number += 1
    made = corner[:at]
    return (
        sizes[:number].copy(),
        source[:number].copy(),
        made[:, 0].copy(),
        made[:, 1].copy(),
        made[:, 2:].copy(),
        child[:number].copy(),
    )


@operator(
    "split_faces",
    family="topology",
    keywords=("subdivide", "flat", "refine", "tessellate", "midpoint", "divide", "dense"),
    carries=(
        "Carries all. New points and corners are interpolated between the ends of their edge or over their face; new faces copy "
        "the face they are part of, half edges their whole edge; edges across faces get the default."
    ),
    parameters=(
        Where.each("face", "faces to split; empty means all"),
        Integer("levels", 1, "how often; the parts of a split face are split again", soft=(1, 5), low=0, high=10),
        Choice("into", "quads", "what a face becomes", options={
            "quads": "one quad per corner around its middle", "triangles": "four triangles; other faces are cut into triangles first",
            "fan": "one triangle per edge around its middle",
        }),
        Choice("seam", "corners", "neighbours that are not split", options={
            "corners": "receive the extra corners: watertight", "triangles": "are cut into triangles along the seam: watertight",
            "open": "stay as they are: points of the split side lie on their edges",
        }),
        GroupName("split_group", "split", "face group that receives the parts", kind="face"),
        GroupName("seam_group", "seam", "face group that receives changed neighbours", kind="face"),
    ),
)  # fmt: skip
def split_faces(geo: Geo, *, where: Flags, levels: int, into: str, seam: str, split_group: str, seam_group: str) -> Geo:
    """Cut faces into smaller ones without changing the shape.

    Parts stand where their face stood in the order; old points come first. Splitting chosen parts again and again
    stays watertight with the seams 'corners' and 'triangles'.
    """
    chosen = where
    if not where.any():
        warn("No face is marked, so nothing was split.")
    if into == "triangles" and (geo.topology.face_size[chosen] > 3).any():
        sizes = np.where(chosen, geo.topology.face_size - 2, 1)
        note("Faces with more than three corners were cut into triangles first.")
        geo, chosen = triangulated(geo, chosen), np.repeat(chosen, sizes)
    changed = np.zeros(geo.topology.face_count, bool)
    for _ in range(levels):
        per = np.full(geo.topology.face_count, 4) if into == "triangles" else geo.topology.face_size
        expected = int(np.where(chosen, per, 1).sum())
        if expected > MOST_FACES:
            raise LimitError(f"this would make {expected:,} faces; {MOST_FACES:,} is the most. Take fewer levels.")
        geo, source, child = _level(geo, chosen, into, seam)
        grown = geo.topology.face_size != child[1][source]
        changed = changed[source] | (grown & ~child[0])
        chosen = child[0]
        if seam == "triangles" and (changed & (geo.topology.face_size > 3)).any():
            cut = changed & ~chosen
            sizes = np.where(cut, geo.topology.face_size - 2, 1)
            geo = triangulated(geo, cut)
            chosen, changed = np.repeat(chosen, sizes), np.repeat(changed, sizes)
    note(f"{int(chosen.sum()):,} parts in {geo.topology.face_count:,} faces.")
    return geo.with_attribute("face", split_group, chosen).with_attribute("face", seam_group, changed & ~chosen)


def _level(geo: Geo, chosen: Flags, into: str, seam: str) -> tuple[Geo, Indices, tuple[Flags, Indices]]:
    """Return one level, the source of each face, which faces are parts, and the old face sizes."""
    shape = geo.topology
    middle, center = np.full(shape.edge_count, -1, np.int32), np.full(shape.face_count, -1, np.int32)
    touched = np.zeros(0, np.int64)
    if into != "fan":
        marked = np.zeros(shape.edge_count, bool)
        marked[shape.corner_edge[chosen[shape.corner_face]]] = True
        touched = np.flatnonzero(marked)
        middle[touched] = shape.point_count + np.arange(len(touched))
    faces = np.flatnonzero(chosen) if into != "triangles" else np.zeros(0, np.int64)
    center[faces] = shape.point_count + len(touched) + np.arange(len(faces))
    sizes, source, point, corner, rest, child = _split(
        INTO[into], chosen, seam != "open", shape.face_start, shape.corner_point, shape.corner_edge, middle, center
    )
    count = shape.point_count + len(touched) + len(faces)
    topology = shape.with_faces(count, starts_from_sizes(sizes), point)
    ends = shape.edges[touched]
    main = np.concatenate([np.arange(shape.point_count), ends[:, 0], shape.corner_point[shape.face_start[faces]]])
    rows = np.concatenate([np.ones(shape.point_count), np.full(len(touched), 2), shape.face_size[faces]]).astype(
        np.int64
    )
    flat, _ = ragged_index(shape.face_start, faces)
    items = np.concatenate([np.arange(shape.point_count), ends.reshape(-1), shape.corner_point[flat]])
    made = carry(
        geo, topology,
        {
            "point": SourceMap(frozen(main.astype(np.int32)), Weights.means(starts_from_sizes(rows), items)),
            "face": kept(source), "corner": lambda: _corner_map(shape, corner, rest[:, 0]),
            "edge": edges_along(topology, rest[:, 1]),
        },
    )  # fmt: skip
    return made, source, (child, shape.face_size)


def _corner_map(shape: Topology, corner: Indices, what: AnyArray) -> SourceMap:
    """Corner values, interpolated along their edge or over their face."""
    face = np.where(what == 2, shape.corner_face[corner], -1)
    sizes = np.where(what == 0, 1, np.where(what == 1, 2, shape.face_size[shape.corner_face[corner]]))
    start = starts_from_sizes(sizes)
    column = np.empty(start[-1], np.int32)
    column[start[:-1]] = corner
    along = np.flatnonzero(what == 1)
    column[start[along] + 1] = shape.corner_next[corner[along]]
    middles = np.flatnonzero(what == 2)
    flat, rows = ragged_index(shape.face_start, face[middles])
    column[np.repeat(start[middles] - rows[:-1], np.diff(rows)) + np.arange(len(flat))] = flat
    return SourceMap(frozen(corner), Weights.means(start, column))
