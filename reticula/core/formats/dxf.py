"""DXF: the lines of a technical drawing as curves, its 3D faces as faces; curves, faces and points as a drawing.

After Autodesk, "DXF Reference" (2012 and later); read and written by ezdxf. Its z is up, ours is y. Layers and colours
of entities become attributes of curves; units of the drawing are taken into account.
"""

from __future__ import annotations

import io
import logging
from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.drawings import Stroke, drawing
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.needed import library, said
from reticula.core.formats.shared.survey import upright, z_up
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.srgb import to_bytes, to_linear

__all__ = ["FORMAT", "read", "write"]

ERROR = 1e-3
"""How far lines may be from bows: a share of the drawing's size, unless it is told in m."""
METRES = 6
"""The number of metres among the units of a drawing ($INSUNITS)."""
MOST = 1_000_000
"""Entities, those of blocks that are placed counted each time."""


def read(data: bytes, error: float = 0.0) -> Geo:
    """Read a DXF; bows become lines within ``error`` (m), or within a thousandth of the drawing's size.

    Raises FormatError for what is no DXF.
    """
    ezdxf = library("ezdxf", "ezdxf")
    library("ezdxf.recover", "ezdxf")
    # It logs every number that it mends; what is left out is noted here.
    logging.getLogger("ezdxf").setLevel(logging.CRITICAL)
    try:
        document, _ = ezdxf.recover.read(io.BytesIO(data))
    except Exception as problem:  # The library passes on whatever its parsers raise.
        raise FormatError(f"this is no DXF: {said(problem)}") from None
    unit = _metres(document)
    entities = _entities(document)
    extent = _extent(entities)
    limit = error / unit if error > 0 else ERROR * extent
    strokes: list[Stroke] = []
    loose: list[tuple[float, float, float]] = []
    meshes: list[tuple[Floats, list[list[int]]]] = []
    left: dict[str, int] = {}
    for entity in entities:
        kind = entity.dxftype()
        try:
            if kind == "POINT":
                loose.append(tuple(entity.dxf.location))
            elif kind in ("3DFACE", "MESH") or (
                kind == "POLYLINE" and not (entity.is_2d_polyline or entity.is_3d_polyline)
            ):
                meshes.append(_mesh(entity))
            else:
                strokes += _strokes(entity, document, limit, unit)
        except (TypeError, AttributeError, ValueError, ArithmeticError, ezdxf.DXFError):
            left[kind] = left.get(kind, 0) + 1
    if left:
        note(f"Left out: {', '.join(f'{count:,} {kind}' for kind, count in sorted(left.items()))}.")
    found = [Geo.from_faces(upright(places) * unit, faces) for places, faces in meshes if faces]
    points = upright(np.array(loose).reshape(-1, 3)) * unit
    if strokes or loose or not found:
        found.append(drawing(strokes, points))
    return concatenate(found)


def _metres(document: Any) -> float:
    units = library("ezdxf.units", "ezdxf")
    try:
        factor = units.conversion_factor(document.units, units.M) if document.units else 1.0
    except (ValueError, TypeError, KeyError):
        factor = 1.0
    if not document.units:
        note("The drawing does not say its unit; lengths were taken as metres.")
    return float(factor)


def _entities(document: Any) -> list[Any]:
    decompose = library("ezdxf.disassemble", "ezdxf").recursive_decompose
    found: list[Any] = []
    try:
        for entity in decompose(document.modelspace()):
            found.append(entity)
            if len(found) > MOST:
                raise FormatError(f"the drawing has more than {MOST:,} entities")
    except RecursionError:
        raise FormatError("the blocks of the drawing hold each other") from None
    return found


def _extent(entities: list[Any]) -> float:
    try:
        box = library("ezdxf.bbox", "ezdxf").extents(entities, fast=True)
        return float(max(box.size)) if box.has_data and max(box.size) > 0 else 1.0
    except Exception:  # A broken entity, which is left out later, with its name.
        return 1.0


def _strokes(entity: Any, document: Any, limit: float, unit: float) -> list[Stroke]:
    path = library("ezdxf.path", "ezdxf")
    made = path.make_path(entity)
    layer = str(entity.dxf.get("layer", "0"))
    width = max(float(entity.dxf.get("lineweight", -1)), 0.0) / 100_000
    color = _color(entity, document)
    strokes = []
    for part in made.sub_paths() if made.has_sub_paths else [made]:
        places = np.array([tuple(place) for place in part.flattening(limit)]).reshape(-1, 3)
        if len(places) > 1:
            strokes.append(Stroke(upright(places) * unit, part.is_closed, layer, "", color, width))
    if not strokes:
        raise ValueError("nothing that can be drawn")
    return strokes


def _color(entity: Any, document: Any) -> tuple[float, float, float, float]:
    colors = library("ezdxf.colors", "ezdxf")
    index = int(entity.dxf.get("color", 256))
    true = entity.rgb
    if true is None and index == 256:
        try:
            layer = document.layers.get(entity.dxf.get("layer", "0"))
            true, index = layer.rgb, abs(int(layer.dxf.get("color", 7)))
        except Exception:  # A layer that the drawing does not declare.
            index = 7
    if true is None:
        true = (0, 0, 0) if index in (0, 7) or not 1 <= index <= 255 else tuple(colors.aci2rgb(index))
    red, green, blue = to_linear(np.array(true, np.float64) / 255.0).tolist()
    return red, green, blue, 1.0


def _mesh(entity: Any) -> tuple[Floats, list[list[int]]]:
    builder = library("ezdxf.render", "ezdxf").MeshBuilder
    if entity.dxftype() == "3DFACE":
        corners = [tuple(corner) for corner in entity.wcs_vertices()]
        return np.array(corners), [list(range(len(corners)))] if len(corners) > 2 else []
    if entity.dxftype() == "MESH":
        made = builder()
        made.vertices, made.faces = list(entity.vertices), list(entity.faces)
    else:
        made = builder.from_polyface(entity)
    places = np.array([tuple(place) for place in made.vertices]).reshape(-1, 3)
    faces = [
        list(map(int, face)) for face in made.faces if len(face) > 2 and max(face) < len(places) and min(face) >= 0
    ]
    return places, faces


def write(geo: Geo) -> bytes:
    """Return a DXF in metres: curves as polylines, faces as one mesh, loose points. All other values are left out."""
    ezdxf = library("ezdxf", "ezdxf")
    document = ezdxf.new("R2010")
    document.units = METRES
    space = document.modelspace()
    shape = geo.topology
    places = z_up(geo.positions)
    count = shape.curve_count
    layers = geo.attribute("curve", "layer") if geo.has("curve", "layer") else np.full(count, "0")
    colors = None
    if geo.has("curve", "color") and geo.find("curve", "color").info.shape in ((3,), (4,)):
        colors = to_bytes(geo.attribute("curve", "color")[:, :3])
    for i in range(count):
        run = places[shape.curve_point[shape.curve_start[i] : shape.curve_start[i + 1]]]
        layer = _layer(document, str(layers[i]))
        line = space.add_polyline3d(run.tolist(), close=bool(shape.curve_closed[i]), dxfattribs={"layer": layer})
        if colors is not None:
            line.rgb = tuple(int(part) for part in colors[i])
    if shape.face_count:
        points, vertex = np.unique(shape.corner_point, return_inverse=True)
        with space.add_mesh().edit_data() as mesh:
            mesh.vertices = places[points].tolist()
            start = shape.face_start.tolist()
            mesh.faces = [vertex.reshape(-1)[a:b].tolist() for a, b in zip(start[:-1], start[1:], strict=True)]
    for place in places[~shape.used_points].tolist():
        space.add_point(place)
    kept = {("point", "position"), ("curve", "color"), ("curve", "layer")}
    lost = losses(geo, kept)
    if lost:
        note(f"DXF cannot hold {', '.join(lost)}.")
    out = io.StringIO()
    document.write(out)
    return document.encode(out.getvalue())


def _layer(document: Any, name: str) -> str:
    """Return a layer of a name as DXF allows it, made if it is missing."""
    clean = "".join("_" if letter in '<>/\\":;?*|=`,' or letter < " " else letter for letter in name)[:255] or "0"
    if clean not in document.layers:
        document.layers.add(clean)
    return clean


FORMAT = Format(
    "dxf", "DXF", read, write, "curves with layers and colours, faces, points", tolerance=True, library="ezdxf"
)
