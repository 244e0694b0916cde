"""SVG: the lines of a drawing as curves, and curves and outlines of faces as a drawing.

After the W3C, "Scalable Vector Graphics (SVG) 2" (2018); read by svgelements. A pixel is 1/96 inch (CSS Values and
Units Level 3), unless the drawing says how large it is. Layers are the labels of groups, as several editors write them.
"""

from __future__ import annotations

import io
import math
from typing import Any
from xml.sax.saxutils import quoteattr

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.finite import all_finite
from reticula.core.formats.format import Format
from reticula.core.formats.shared.drawings import Stroke, arc_steps, bezier, bezier_steps, drawing
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.needed import library, said
from reticula.core.geometry import Geo
from reticula.core.srgb import to_bytes, to_linear

__all__ = ["FORMAT", "read", "write"]

PIXEL = 0.0254 / 96
"""In m."""
ERROR = 1e-3
"""How far lines may be from bows: a share of the drawing's size, unless it is told in m."""
LABEL = "{http://www.inkscape.org/namespaces/inkscape}label"
MILLIMETRES = 1000.0


def read(data: bytes, error: float = 0.0) -> Geo:
    """Read an SVG; bows become lines within ``error`` (m), or within a thousandth of the drawing's size.

    Raises FormatError for what is no SVG.
    """
    shapes = library("svgelements", "svgelements")
    try:
        parsed = shapes.SVG.parse(io.BytesIO(data), reify=True)
        elements = list(parsed.elements())
    except RecursionError:
        raise FormatError("the drawing is nested too deeply") from None
    except Exception as problem:  # The library passes on whatever its parsers raise.
        raise FormatError(f"this is no SVG: {said(problem)}") from None
    drawn = [one for one in elements if isinstance(one, shapes.Shape)]
    limit = error / PIXEL if error > 0 else ERROR * _size(drawn)
    strokes = [stroke for one in drawn for stroke in _strokes(shapes, one, limit)]
    texts, pictures = (sum(isinstance(one, kind) for one in elements) for kind in (shapes.Text, shapes.Image))
    if texts or pictures:
        left = [f"{count:,} {word}" for count, word in ((texts, "texts"), (pictures, "pictures")) if count]
        note(f"Left out: {', '.join(left)}; turn texts into paths to keep them.")
    return drawing(strokes)


def _size(drawn: list[Any]) -> float:
    boxes = [box for one in drawn if (box := _box(one)) is not None and all(math.isfinite(side) for side in box)]
    if not boxes:
        return 1.0
    low, high = np.array(boxes)[:, :2].min(axis=0), np.array(boxes)[:, 2:].max(axis=0)
    return float(max((high - low).max(), 1e-9))


def _box(one: Any) -> Any:
    """The box around something drawn; None if there is nothing in it, which the library does not always expect."""
    try:
        return one.bbox()
    except ValueError:
        return None


def _strokes(shapes: Any, one: Any, limit: float) -> list[Stroke]:
    values = one.values or {}
    paint = one.stroke if one.stroke is not None and one.stroke.value is not None else one.fill
    color = (0.0, 0.0, 0.0, 1.0)
    if paint is not None and paint.value is not None:
        red, green, blue = to_linear(np.array([paint.red, paint.green, paint.blue]) / 255.0).tolist()
        color = (red, green, blue, float(paint.opacity))
    stroked = one.stroke is not None and one.stroke.value is not None
    width = float(one.stroke_width or 0.0) * PIXEL if stroked else 0.0
    layer, name = str(values.get(LABEL) or ""), str(values.get("id") or "")
    made = []
    for part in shapes.Path(one).as_subpaths():
        places, closed = _flattened(shapes, part, limit)
        if len(places) > 1:
            flat = np.stack([places[:, 0], np.zeros(len(places)), places[:, 1]], axis=1) * PIXEL
            made.append(Stroke(flat, closed, layer, name, color, width))
    return made


def _flattened(shapes: Any, part: Any, limit: float) -> tuple[Floats, bool]:
    runs: list[Floats] = []
    closed = False
    for segment in part:
        if isinstance(segment, shapes.Move):
            runs.append(np.array([[segment.end.x, segment.end.y]]))
        elif isinstance(segment, shapes.Close):
            closed = True
        elif segment.end is None or segment.start is None:
            continue
        elif isinstance(segment, shapes.CubicBezier | shapes.QuadraticBezier):
            inner = (
                [segment.control1, segment.control2] if isinstance(segment, shapes.CubicBezier) else [segment.control]
            )
            control = np.array([[p.x, p.y] for p in (segment.start, *inner, segment.end)])
            runs.append(bezier(control, bezier_steps(control, limit))[1:])
        elif isinstance(segment, shapes.Arc):
            steps = arc_steps(max(segment.rx, segment.ry), segment.sweep, limit)
            runs.append(np.array([[p.x, p.y] for p in (segment.point(t / steps) for t in range(1, steps + 1))]))
        else:
            runs.append(np.array([[segment.end.x, segment.end.y]]))
    places = np.concatenate(runs) if runs else np.zeros((0, 2))
    if not all_finite(places):
        raise FormatError("a path holds a number that is not finite")
    return places, closed


def write(geo: Geo) -> bytes:
    """Return an SVG in millimetres, as seen from above: faces filled with their colours, curves with ``width`` or
    ``radius`` (m) as weight of line. Heights and all other values are left out.
    """
    flat = geo.positions[:, [0, 2]] * MILLIMETRES
    shape = geo.topology
    if not shape.curve_count and not shape.face_count:
        note("SVG holds curves and outlines of faces; there are none here.")
    if shape.point_count and np.ptp(geo.positions[:, 1]) > 0:
        note("SVG is flat: heights were left out.")
    low = flat.min(axis=0) if len(flat) else np.zeros(2)
    size = np.ptp(flat, axis=0) if len(flat) else np.ones(2)
    usual = max(float(size.max()) / 500, 0.01)
    edge = usual * 2
    box = [*(low - edge), *(size + 2 * edge)]
    text = [
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<svg xmlns="http://www.w3.org/2000/svg" xmlns:inkscape="http://www.inkscape.org/namespaces/inkscape" '
        f'width="{box[2]:.9g}mm" height="{box[3]:.9g}mm" viewBox="{" ".join(f"{part:.9g}" for part in box)}">\n'
    ]
    if shape.face_count:
        text.append(_faces(geo, flat, usual))
    if shape.curve_count:
        text.append(_curves(geo, flat, usual))
    text.append("</svg>\n")
    kept = {
        ("point", "position"),
        ("face", "color"),
        *(("curve", name) for name in ("color", "width", "radius", "layer", "name")),
    }
    lost = losses(geo, kept)
    if lost:
        note(f"SVG cannot hold {', '.join(lost)}.")
    return "".join(text).encode()


def _paths(flat: Floats, start: AnyArray, points: AnyArray, closed: AnyArray) -> list[str]:
    made = []
    for begin, end, shut in zip(start[:-1].tolist(), start[1:].tolist(), closed.tolist(), strict=True):
        run = flat[points[begin:end]].tolist()
        made.append("M" + "L".join(f"{x:.9g} {y:.9g}" for x, y in run) + "Z" * shut)
    return made


def _colored(geo: Geo, kind: Any, count: int, usual: str) -> list[tuple[str, float]]:
    if not geo.has(kind, "color") or geo.find(kind, "color").info.shape not in ((3,), (4,)):
        return [(usual, 1.0)] * count
    colors = geo.attribute(kind, "color")
    codes = to_bytes(colors[:, :3])
    opacity = colors[:, 3].clip(0, 1).tolist() if colors.shape[1] == 4 else [1.0] * count
    return [("#" + bytes(code).hex(), part) for code, part in zip(codes, opacity, strict=True)]


def _faces(geo: Geo, flat: Floats, weight: float) -> str:
    shape = geo.topology
    paths = _paths(flat, shape.face_start, shape.corner_point, np.ones(shape.face_count, bool))
    colors = _colored(geo, "face", shape.face_count, "none")
    rows = [
        f'<path d="{path}" fill="{color}"{_opacity("fill", part)}/>\n'
        for path, (color, part) in zip(paths, colors, strict=True)
    ]
    head = f'<g inkscape:groupmode="layer" inkscape:label="faces" stroke="#333333" stroke-width="{weight:.6g}">\n'
    return head + "".join(rows) + "</g>\n"


def _opacity(word: str, part: float) -> str:
    return f' {word}-opacity="{part:.4g}"' if part < 1.0 else ""


def _curves(geo: Geo, flat: Floats, usual: float) -> str:
    shape = geo.topology
    count = shape.curve_count
    paths = _paths(flat, shape.curve_start, shape.curve_point, shape.curve_closed)
    weights = np.full(count, usual)
    for name, times in (("radius", 2.0), ("width", 1.0)):
        if geo.has("curve", name) and geo.find("curve", name).type == "number":
            weights = geo.attribute("curve", name) * times * MILLIMETRES
    layers = geo.attribute("curve", "layer") if geo.has("curve", "layer") else np.full(count, "")
    names = geo.attribute("curve", "name") if geo.has("curve", "name") else np.full(count, "")
    colors = _colored(geo, "curve", count, "#000000")
    text = []
    for layer in dict.fromkeys(map(str, layers.tolist())):
        label = f' inkscape:groupmode="layer" inkscape:label={_quoted(layer)}' if layer else ""
        text.append(f'<g{label} fill="none">\n')
        for i in np.flatnonzero(layers == layer).tolist():
            color, part = colors[i]
            named = f" id={_quoted(str(names[i]))}" if names[i] else ""
            look = f'stroke="{color}"{_opacity("stroke", part)} stroke-width="{weights[i]:.6g}"'
            text.append(f'<path{named} d="{paths[i]}" {look}/>\n')
        text.append("</g>\n")
    return "".join(text)


def _quoted(text: str) -> str:
    return quoteattr("".join(letter for letter in text if letter >= " " or letter in "\t\n"))


FORMAT = Format(
    "svg",
    "SVG",
    read,
    write,
    "curves with layers, names, colours and widths; outlines of faces",
    tolerance=True,
    library="svgelements",
)
