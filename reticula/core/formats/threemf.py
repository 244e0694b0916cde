"""3MF: what printers take: triangles, colours, struts along curves, several objects, in a unit of length.

After the 3MF Consortium, "3MF Core Specification 1.3", "Materials and Properties Extension 1.2" and "Beam Lattice
Extension 1.2"; read and written by lib3mf. Its z is up, ours is y. Colours are taken as sRGB and made linear.
"""

from __future__ import annotations

from collections import deque
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.diagnostics import note, warn
from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.needed import library, said
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.survey import z_up
from reticula.core.geometry import Geo, Kind, Topology, triangles
from reticula.core.geometry.edit.affine import apply_affine
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.srgb import from_bytes, to_bytes

__all__ = ["FORMAT", "read", "write"]

METRES = {"MicroMeter": 1e-6, "MilliMeter": 1e-3, "CentiMeter": 1e-2, "Inch": 0.0254, "Foot": 0.3048, "Meter": 1.0}
PER_METRE = 1000.0
"""Written in millimetres, as printers expect."""
UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])
"""From z up to y up."""
MOST_OBJECTS = 100_000
COLORED: tuple[tuple[int, ...], ...] = ((3,), (4,))
THIN = 1e-3
"""Radius of struts whose curves tell none, as a share of the size of the shape."""


def read(data: bytes) -> Geo:
    """Read a 3MF: all objects where they are to be printed, with their names and colours, struts as curves with
    ``radius``. Raises FormatError for what is broken.
    """
    lib3mf = library("lib3mf", "lib3mf")
    try:
        model = lib3mf.get_wrapper().CreateModel()
        reader = model.QueryReader("3mf")
        reader.SetStrictModeActive(False)
        reader.ReadFromBuffer(data)
        size = METRES.get(lib3mf.ModelUnit(model.GetUnit()).name, 1e-3)
        placed = _placed(model)
        named = [(name, _object(lib3mf, model, mesh), matrix) for name, mesh, matrix in placed]
    except FormatError:
        raise
    except Exception as problem:  # The library passes on whatever its parsers raise.
        raise FormatError(f"this 3MF cannot be read: {said(problem)}") from None
    if not named:
        raise FormatError("the file holds nothing to print")
    scale = np.diag([size, size, size, 1.0])
    made = []
    for name, geo, matrix in named:
        try:
            moved = apply_affine(geo, UP @ scale @ matrix)
        except np.linalg.LinAlgError:
            raise FormatError(f"the object '{name}' is squeezed flat by its place") from None
        if geo.has("curve", "radius"):
            factor = abs(np.linalg.det(matrix[:3, :3])) ** (1 / 3) * size
            moved = moved.with_attribute("curve", "radius", geo.attribute("curve", "radius") * factor)
        if len(named) > 1 and geo.topology.face_count:
            moved = moved.with_attribute("face", "object", np.full(geo.topology.face_count, name))
        made.append(moved)
    return concatenate(made)


def _placed(model: Any) -> list[tuple[str, Any, Floats]]:
    """Return every mesh with its name and its matrix, components of components worked out."""
    found: list[tuple[str, Any, Floats]] = []
    waiting: deque[tuple[Any, Floats, int]] = deque()
    items = model.GetBuildItems()
    while items.MoveNext():
        item = items.GetCurrent()
        matrix = _matrix(item.GetObjectTransform()) if item.HasObjectTransform() else np.eye(4)
        waiting.append((item.GetObjectResource(), matrix, 0))
    while waiting:
        thing, matrix, depth = waiting.popleft()
        if depth > 50 or len(found) + len(waiting) > MOST_OBJECTS:
            raise FormatError(f"the file places more than {MOST_OBJECTS:,} objects, or objects within each other")
        if thing.IsMeshObject():
            mesh = model.GetMeshObjectByID(thing.GetResourceID())
            found.append((str(thing.GetName() or f"object {len(found) + 1}"), mesh, matrix))
        elif thing.IsComponentsObject():
            parts = model.GetComponentsObjectByID(thing.GetResourceID())
            for number in range(parts.GetComponentCount()):
                part = parts.GetComponent(number)
                own = _matrix(part.GetTransform()) if part.HasTransform() else np.eye(4)
                waiting.append((part.GetObjectResource(), matrix @ own, depth + 1))
    return found


def _matrix(transform: Any) -> Floats:
    made = np.eye(4)
    made[:3] = np.array([list(row) for row in transform.Fields], np.float64).T
    return made


def _rows(listed: Any, type: Any, wide: int) -> AnyArray:
    return np.frombuffer(b"".join(map(bytes, listed)), type).reshape(-1, wide)


def _object(lib3mf: Any, model: Any, mesh: Any) -> Geo:
    places = _rows(mesh.GetVertices(), np.float32, 3).astype(np.float64)
    check_places(places)
    corner = _rows(mesh.GetTriangleIndices(), np.uint32, 3).astype(np.int64)
    whole = (corner[:, 0] != corner[:, 1]) & (corner[:, 1] != corner[:, 2]) & (corner[:, 2] != corner[:, 0])
    if len(corner) and corner.max() >= len(places):
        raise FormatError(f"a triangle uses vertex {corner.max():,}; there are {len(places):,}")
    if not whole.all():
        note(f"Left out {int((~whole).sum()):,} triangles whose corners coincide.")
    beams = mesh.BeamLattice().GetBeams()
    ends = np.array([list(beam.Indices) for beam in beams], np.int64).reshape(-1, 2)
    radii = np.array([sum(beam.Radii) / 2 for beam in beams])
    start, along, closed, radius = _struts(ends, radii, len(places))
    topology = Topology(
        len(places), np.arange(int(whole.sum()) + 1) * 3, corner[whole].reshape(-1), start, along, closed
    )
    geo = Geo.of(places, topology)
    if len(closed):
        geo = geo.with_attribute("curve", "radius", radius)
    return _colored(lib3mf, model, mesh, geo, whole)


def _struts(ends: Ints, radii: Floats, count: int) -> tuple[AnyArray, AnyArray, AnyArray, Floats]:
    """Return beams of one thickness put end to end as curves, with the radius of each."""
    starts, points, closed, radius = [np.zeros(1, np.int64)], [np.zeros(0, np.int64)], [np.zeros(0, bool)], []
    for one in np.unique(radii):
        lines = edge_chains(ends[radii == one].astype(np.int32), count)
        starts.append(starts[-1][-1] + lines.start[1:].astype(np.int64))
        points.append(lines.point.astype(np.int64))
        closed.append(lines.closed)
        radius.append(np.full(len(lines.closed), one))
    return (
        np.concatenate(starts),
        np.concatenate(points),
        np.concatenate(closed),
        np.concatenate(radius or [np.zeros(0)]),
    )


def _colored(lib3mf: Any, model: Any, mesh: Any, geo: Geo, whole: AnyArray) -> Geo:
    """Put the colours of triangles on points where they agree, else on corners."""
    properties = mesh.GetAllTriangleProperties() if geo.topology.face_count else []
    told = _rows(properties, np.uint32, 4)
    used = sorted(set(told[:, 0].tolist()) - {0})
    if not used or len(told) != len(whole):
        return geo
    colors = np.ones((len(told), 3, 4))
    for number in used:
        group, ask = _group(lib3mf, model, number)
        if group is None:
            continue
        some = told[:, 0] == number
        known = {int(i): ask(int(i)) for i in np.unique(told[some, 1:])}
        table = {i: (c.Red, c.Green, c.Blue, c.Alpha) for i, c in known.items()}
        codes = np.array([table[i] for i in told[some, 1:].reshape(-1).tolist()], np.uint8)
        colors[some] = from_bytes(codes).reshape(-1, 3, 4)
    flat = colors[whole].reshape(-1, 4)
    point = geo.topology.corner_point
    first = np.zeros((geo.topology.point_count, 4)) + 1.0
    first[point] = flat
    if np.array_equal(first[point], flat):
        return geo.with_attribute("point", "color", first)
    if (colors[whole] == colors[whole][:, :1]).all():
        return geo.with_attribute("face", "color", colors[whole][:, 0])
    return geo.with_attribute("corner", "color", flat)


def _group(lib3mf: Any, model: Any, number: int) -> tuple[Any, Any]:
    for find, ask in ((model.GetColorGroupByID, "GetColor"), (model.GetBaseMaterialGroupByID, "GetDisplayColor")):
        try:
            group = find(number)
        except lib3mf.ELib3MFException:
            continue
        return group, getattr(group, ask)
    return None, None


def write(geo: Geo) -> bytes:
    """Return a 3MF in millimetres: triangles with their colours, and curves with ``radius`` as struts.

    A surface that is not closed is said, since it has no inside to print.
    """
    lib3mf = library("lib3mf", "lib3mf")
    geo = flatten(geo)
    model = lib3mf.get_wrapper().CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    mesh = model.AddMeshObject()
    mesh.SetName("shape")
    shape = geo.topology
    if not shape.face_count and not shape.curve_count:
        raise FormatError("3MF holds faces and struts along curves; there are none to print")
    places = np.ascontiguousarray(z_up(geo.positions) * PER_METRE, np.float32)
    corner = triangles(geo).corner if shape.face_count else np.zeros((0, 3), np.int32)
    vertex = np.ascontiguousarray(shape.corner_point[corner], np.uint32)
    mesh.SetGeometry(_structures(lib3mf.Position, places), _structures(lib3mf.Triangle, vertex))
    if shape.face_count:
        _paint(lib3mf, model, mesh, geo, corner)
        _say_what_is_open(geo)
    if shape.curve_count:
        _lattice(lib3mf, mesh, geo)
    model.AddBuildItem(mesh, lib3mf.get_wrapper().GetIdentityTransform())
    kept = {("point", "position"), *((kind, "color") for kind in ("point", "corner", "face")), ("curve", "radius")}
    lost = losses(geo, kept)
    if lost:
        note(f"3MF cannot hold {', '.join(lost)}.")
    return bytes(model.QueryWriter("3mf").WriteToBuffer())


def _structures(type: Any, rows: AnyArray) -> Any:
    return (type * len(rows)).from_buffer_copy(rows) if len(rows) else []


def _paint(lib3mf: Any, model: Any, mesh: Any, geo: Geo, corner: AnyArray) -> None:
    shape = geo.topology
    index: dict[Kind, AnyArray] = {
        "corner": corner,
        "point": shape.corner_point[corner],
        "face": shape.corner_face[corner],
    }
    kind = next((k for k in index if geo.has(k, "color") and geo.find(k, "color").info.shape in COLORED), None)
    if kind is None:
        return
    codes = to_bytes(geo.attribute(kind, "color"))
    codes = codes if codes.shape[1] == 4 else np.concatenate([codes, np.full((len(codes), 1), 255, np.uint8)], axis=1)
    used, number = np.unique(np.ascontiguousarray(codes).view(np.uint32).reshape(-1), return_inverse=True)
    group = model.AddColorGroup()
    ids = []
    for code in used.tolist():
        red, green, blue, alpha = int(code).to_bytes(4, "little")
        color = lib3mf.Color()
        color.Red, color.Green, color.Blue, color.Alpha = red, green, blue, alpha
        ids.append(group.AddColor(color))
    table = np.empty((len(corner), 4), np.uint32)
    table[:, 0] = group.GetResourceID()
    table[:, 1:] = np.array(ids, np.uint32)[number.reshape(-1)[index[kind]]]
    mesh.SetAllTriangleProperties(_structures(lib3mf.TriangleProperties, table))
    mesh.SetObjectLevelProperty(group.GetResourceID(), ids[0])


def _lattice(lib3mf: Any, mesh: Any, geo: Geo) -> None:
    shape = geo.topology
    low, high = geo.positions.min(axis=0), geo.positions.max(axis=0)
    radius = np.full(shape.curve_count, float(np.linalg.norm(high - low)) * THIN)
    if geo.has("curve", "radius") and geo.find("curve", "radius").type == "number":
        radius = geo.attribute("curve", "radius")
    else:
        note(f"The curves tell no 'radius'; struts were made {radius[0] * 2000:.3g} mm thick.")
    beams = []
    for i in range(shape.curve_count):
        run = shape.curve_point[shape.curve_start[i] : shape.curve_start[i + 1]].tolist()
        run += run[:1] * bool(shape.curve_closed[i])
        for a, b in zip(run[:-1], run[1:], strict=True):
            beam = lib3mf.Beam()
            beam.Indices[0], beam.Indices[1] = a, b
            beam.Radii[0] = beam.Radii[1] = max(float(radius[i]) * PER_METRE, 1e-6)
            beam.CapModes[0] = beam.CapModes[1] = int(lib3mf.BeamLatticeCapMode.Sphere)
            beams.append(beam)
    lattice = mesh.BeamLattice()
    lattice.SetMinLength(1e-6)
    lattice.SetBeams(beams)


def _say_what_is_open(geo: Geo) -> None:
    faces = geo.topology.edge_face_count
    counts = ((int((faces == 1).sum()), "open edges"), (int((faces > 2).sum()), "edges with more than two faces"))
    said = [f"{count:,} {word}" for count, word in counts if count]
    if said:
        warn(f"The surface has {' and '.join(said)}: a printer cannot tell its inside. Repair or close it first.")


FORMAT = Format(
    "3mf",
    "3MF",
    read,
    write,
    "triangles with colours, struts along curves, objects, units",
    apart=True,
    library="lib3mf",
)
