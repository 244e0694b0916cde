"""PLY: every attribute of every element kind, both ways.

Points are ``vertex``, faces ``face`` with ``vertex_indices``; corners, edges, curves and the whole have elements of
those names that other programs pass over. ``comment attribute`` lines say which properties make up an attribute and
of what type it is (docs/formats.md lists them), so that all survive a round trip exactly. Colours of 8 bits, as other
programs write them, are taken as sRGB and made linear; colours in floats are taken as linear.
"""

from __future__ import annotations

import json

import numpy as np

from reticula.core.arrays import AnyArray, Floats, as_rows, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError, GeometryError
from reticula.core.formats.format import ENCODING, EVERYTHING, Format
from reticula.core.formats.ply_lists import with_flat_lists, with_whole_lists
from reticula.core.formats.ply_table import Column, Element, read_tables, write_tables
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.told import told
from reticula.core.geometry import KINDS, Attribute, Geo, Kind, Topology
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.geometry.mesh.edge_chains import EdgeChains, edge_chains
from reticula.core.language.reserved import readable_name
from reticula.core.srgb import to_linear
from reticula.core.words import with_article

__all__ = ["FORMAT", "read", "write"]

ELEMENTS: dict[Kind, str] = {
    "point": "vertex",
    "face": "face",
    "edge": "edge",
    "corner": "corner",
    "curve": "curve",
    "whole": "whole",
}
STRUCTURE = {
    "vertex": {"x", "y", "z"},
    "face": {"vertex_indices", "vertex_index"},
    "edge": {"vertex1", "vertex2"},
    "curve": {"vertex_indices", "closed"},
    "corner": {"face_corner"},
    "whole": {"one"},
}
EDGE_VALUES = "edge_values"
"""The element of what edges hold besides their vertices, which is all that other programs expect of ``edge``."""
FAMILIAR = {"normal": ("nx", "ny", "nz"), "color": ("red", "green", "blue", "alpha"), "uv": ("s", "t")}


def read(data: bytes) -> Geo:
    """Read a PLY file; raise FormatError with the line or byte of whatever is wrong."""
    elements, comments = read_tables(data)
    elements = with_whole_lists(elements)
    tables = {element.name: element for element in elements}
    if "edge" in tables and EDGE_VALUES in tables and tables["edge"].count == tables[EDGE_VALUES].count:
        tables["edge"].columns += tables[EDGE_VALUES].columns
    vertex = tables.get("vertex")
    axes = [vertex.column(axis) if vertex else None for axis in "xyz"]
    if vertex is None or any(axis is None or axis.start is not None for axis in axes):
        raise FormatError("there is no 'vertex' element with x, y and z", line=1)
    positions = _side_by_side([axis.values for axis in axes if axis is not None])
    check_places(positions)
    told(0.5)
    geo = Geo.of(positions, _topology(vertex.count, tables))
    told(0.7)
    if "edge" in tables:
        geo = _edges(geo, tables)
    types = _declared(comments)
    for kind in KINDS:
        table = tables.get(ELEMENTS.get(kind, ""))
        if table is None:
            continue
        if table.count != geo.topology.count(kind) or not table.columns:
            note(
                f"The values of '{table.name}' do not fit its {geo.topology.count(kind):,} elements and were left out."
            )
            continue
        for name, attribute in _attributes(table, types):
            geo = geo.with_attribute(kind, name, attribute)
    return _texture(geo, tables)


def _side_by_side(axes: list[AnyArray]) -> Floats:
    """The columns x, y and z as one array ``(N, 3)``: the one that they were read into, if that holds nothing else."""
    block = axes[0].base
    if isinstance(block, np.ndarray) and block.size == 3 * len(axes[0]) and block.dtype == np.float64:
        first = block.__array_interface__["data"][0]
        if [axis.__array_interface__["data"][0] - first for axis in axes] == [0, 8, 16]:
            return block.reshape(-1, 3)
    return np.stack([axis.astype(np.float64) for axis in axes], axis=1)


def _topology(count: int, tables: dict[str, Element]) -> Topology:
    face = tables.get("face")
    listed = face.column("vertex_indices", "vertex_index") if face else None
    start, corners = _index_list(listed, count, "face", 3)
    if listed is None and "tristrips" in tables:
        raise FormatError("triangle strips are not read; save the file with plain faces")
    curve = tables.get("curve")
    along = curve.column("vertex_indices") if curve else None
    closed = curve.column("closed") if curve else None
    curve_start, curve_points = _index_list(along, count, "curve", 2)
    if closed is not None and (closed.start is not None or len(closed.values) != len(curve_start) - 1):
        raise FormatError("the element 'curve' needs its points and one 'closed' for each of its rows")
    return Topology(count, start, corners, curve_start, curve_points, closed.values != 0 if closed else None)


def _edges(geo: Geo, tables: dict[str, Element]) -> Geo:
    """Match the edges of a file with those of its faces and curves; others become curves.

    The rows that stay are brought into the order of the geometry's edges.
    """
    table, shape = tables["edge"], geo.topology
    ends = [table.column(f"vertex{i}") for i in (1, 2)]
    if any(end is None or end.start is not None for end in ends):
        note("The edges of the file do not say their vertices and were left out.")
        del tables["edge"]
        return geo
    pairs = np.stack([end.values.astype(np.int64) for end in ends if end is not None], axis=1)
    bad = np.flatnonzero((pairs < 0).any(axis=1) | (pairs >= shape.point_count).any(axis=1))
    if len(bad):
        raise FormatError(f"edge {bad[0]} uses vertex {pairs[bad[0]].max()}, but there are only {shape.point_count}")
    count = max(shape.point_count, 1)
    key, known = (np.sort(both, axis=1) @ [count, 1] for both in (pairs, shape.edges.astype(np.int64)))
    loose = np.flatnonzero(~np.isin(key, known) & (pairs[:, 0] != pairs[:, 1]))
    if len(loose):
        _, first = np.unique(key[loose], return_index=True)
        lines = edge_chains(pairs[loose[np.sort(first)]].astype(np.int32), shape.point_count)
        note(f"{len(first):,} edges that belong to no face became {len(lines.closed):,} curves.")
        geo = Geo(_with_curves(shape, lines), geo.attributes)
    order, where = np.argsort(key, kind="stable"), np.sort(key)
    wanted = np.sort(geo.topology.edges.astype(np.int64), axis=1) @ [count, 1]
    if np.isin(wanted, key).all():
        table.take(order[np.searchsorted(where, wanted)])
        return geo
    if {column.name for column in table.columns} - STRUCTURE["edge"]:
        note("The values of the file's edges were left out: it does not name all edges of its faces.")
    del tables["edge"]
    return geo


def _with_curves(shape: Topology, lines: EdgeChains) -> Topology:
    return Topology(
        shape.point_count,
        shape.face_start,
        shape.corner_point,
        np.concatenate([shape.curve_start, shape.curve_start[-1] + lines.start[1:]]),
        np.concatenate([shape.curve_point, lines.point]),
        np.concatenate([shape.curve_closed, lines.closed]),
    )


def _index_list(column: Column | None, count: int, what: str, least: int) -> tuple[AnyArray, AnyArray]:
    if column is None or column.start is None:
        return np.zeros(1, np.int32), np.zeros(0, np.int32)
    values = column.values
    sizes = np.diff(column.start)
    if len(values) and not (values.min() >= 0 and values.max() < count):
        bad = np.flatnonzero((values < 0) | (values >= count) | (values != values))
        owner = int(np.searchsorted(column.start, bad[0], side="right")) - 1
        raise FormatError(f"{what} {owner} uses vertex {values[bad[0]]}, but there are only {count}")
    if len(sizes) and sizes.min() < least:
        raise FormatError(f"{what} {int(sizes.argmin())} has {sizes.min()} vertices; it needs {least}")
    return column.start, values


def _declared(comments: list[str]) -> dict[tuple[str, str], tuple[str, str]]:
    """Return {(element, first property): (attribute name, type)} from the comments."""
    found = {}
    for comment in comments:
        words = comment.split()
        if words[:1] == ["attribute"] and len(words) == 5 and words[2].replace("_", " ") in TYPES:
            found[words[1], words[4]] = (words[3], words[2].replace("_", " "))
    return found


def _attributes(table: Element, types: dict[tuple[str, str], tuple[str, str]]) -> list[tuple[str, Attribute]]:
    columns = {c.name: c for c in table.columns if c.name not in STRUCTURE[table.name]}
    made: list[tuple[str, Attribute]] = []
    for (element, first), (name, type) in types.items():
        if element == table.name:
            taken = _property_names(first, type)
            if all(word in columns for word in taken):
                made.append((name, _decode(type, [columns.pop(word) for word in taken])))
    for name, words in FAMILIAR.items():
        there = [columns[word] for word in words if word in columns]
        if len(there) == len(words) or (name == "color" and len(there) == 3 and "alpha" not in columns):
            made.append((name, _familiar(name, there)))
            for column in there:
                del columns[column.name]
    for column in columns.values():
        if table.name == "face" and column.name == "texcoord":
            continue
        type = "number" if column.type[0] == "f" else "integer"
        if column.start is not None:
            start = starts_from_sizes(np.diff(column.start))
            found = Attribute(f"{type} list", column.values.astype(TYPES[type].dtype), start)
        else:
            found = Attribute.of(column.values, type)
        name = _free(readable_name(column.name), made)
        if name != column.name:
            note(f"'{column.name}' of {table.name} is called '{name}' here, so that formulas can read it.")
        made.append((name, found))
    return made


def _free(name: str, made: list[tuple[str, Attribute]]) -> str:
    while any(name == other for other, _ in made):
        name += "_"
    return name


def _familiar(name: str, columns: list[Column]) -> Attribute:
    values = np.stack([column.values.astype(np.float64) for column in columns], axis=1)
    if name == "color":
        if columns[0].type[0] in "iu":
            values /= np.iinfo(columns[0].type).max
            values[:, :3] = to_linear(values[:, :3])
        if values.shape[1] == 3:
            values = np.concatenate([values, np.ones((len(values), 1))], axis=1)
    return Attribute.of(values)


def _texture(geo: Geo, tables: dict[str, Element]) -> Geo:
    column = tables["face"].column("texcoord") if "face" in tables else None
    if column is None or column.start is None or geo.has("corner", "uv"):
        return geo
    if len(column.values) != 2 * geo.topology.corner_count:
        note("The texture coordinates do not fit the faces and were left out.")
        return geo
    return geo.with_attribute("corner", "uv", column.values.astype(np.float64).reshape(-1, 2))


def write(geo: Geo, encoding: str = "binary") -> bytes:
    """Return a PLY file that holds all of ``geo``; ``encoding`` is binary (little-endian) or ascii."""
    shape = geo.topology
    structure: dict[Kind, list[Column]] = {
        "point": [Column(axis, "f8", None, geo.positions[:, i]) for i, axis in enumerate("xyz")],
        "face": [Column("vertex_indices", "i4", _count_type(shape.face_start), shape.corner_point, shape.face_start)],
        "curve": [
            Column("vertex_indices", "i4", "u4", shape.curve_point, shape.curve_start),
            Column("closed", "u1", None, shape.curve_closed.astype(np.uint8)),
        ],
    }
    elements, comments = [], ["Reticula", "colours are linear"]
    for kind in ELEMENTS:
        named = {name: found for name, found in geo.attributes[kind].items() if (kind, name) != ("point", "position")}
        if kind not in ("point", "face") and not named and not (kind == "curve" and shape.curve_count):
            continue
        element = Element(ELEMENTS[kind], shape.count(kind), list(structure.get(kind, [])))
        if kind == "edge":
            element.columns += [Column(f"vertex{i + 1}", "i4", None, shape.edges[:, i]) for i in (0, 1)]
        used = {column.name for column in element.columns} | STRUCTURE[element.name]
        used |= {word for name, words in FAMILIAR.items() if name not in named for word in words}
        for name, attribute in named.items():
            first = FAMILIAR[name][0] if _is_familiar(name, attribute) else name
            while any(word in used for word in _property_names(first, attribute.type)):
                first += "_"
            columns = _encode(first, attribute)
            used |= {column.name for column in columns}
            element.columns += columns
            comments.append(f"attribute {element.name} {attribute.type.replace(' ', '_')} {name} {first}")
        if kind == "edge":
            elements.append(Element("edge", element.count, element.columns[:2]))
            element = Element(EDGE_VALUES, element.count, element.columns[2:])
        elements.append(element)
    return write_tables(with_flat_lists(elements), comments, encoding)


def _count_type(start: AnyArray) -> str:
    return "u1" if len(start) < 2 or np.diff(start).max() < 256 else "u4"


def _is_familiar(name: str, attribute: Attribute) -> bool:
    return name in FAMILIAR and attribute.info.size == len(FAMILIAR[name]) and attribute.info.dtype is np.float64


def _property_names(first: str, type: str) -> list[str]:
    info = TYPES[type]
    for words in FAMILIAR.values():
        if first == words[0] and info.size == len(words):
            return list(words)
    if info.filed == "i8":
        return [first, f"{first}_high"]
    return [first] if info.size == 1 else [first, *(f"{first}_{i}" for i in range(1, info.size))]


def _encode(first: str, attribute: Attribute) -> list[Column]:
    names, info, start = _property_names(first, attribute.type), attribute.info, attribute.start
    count_type = "u4" if start is not None else None
    match info.filed:
        case "text":
            rows = [attribute.row(i) for i in range(len(attribute))]
            texts = [json.dumps(row) if info.is_list else row for row in rows]
            data = [text.encode("utf-8", "surrogatepass") for text in texts]
            flat = np.frombuffer(b"".join(data), np.uint8)
            return [Column(first, "u1", "u4", flat, starts_from_sizes(np.array([len(d) for d in data], np.int64)))]
        case "i8":
            low = (attribute.values & 0xFFFFFFFF).astype(np.uint32)
            high = (attribute.values >> 32).astype(np.int32)
            return [Column(names[0], "u4", count_type, low, start), Column(names[1], "i4", count_type, high, start)]
        case "f8" | "u1" if info.is_list:
            return [Column(first, info.filed, count_type, attribute.values, start)]
    flat = as_rows(attribute.values)
    return [Column(name, info.filed, None, flat[:, i]) for i, name in enumerate(names)]


def _decode(type: str, columns: list[Column]) -> Attribute:
    info = TYPES[type]
    try:
        match info.filed:
            case "text":
                start = columns[0].start
                assert start is not None
                data = columns[0].values.astype(np.uint8).tobytes()
                spans = zip(start[:-1].tolist(), start[1:].tolist(), strict=True)
                texts = [data[a:b].decode("utf-8", "surrogatepass") for a, b in spans]
                if info.is_list:
                    return Attribute.of([json.loads(text) for text in texts], type)
                return Attribute.of(np.array(texts, np.str_) if texts else np.zeros(0, "U1"), type)
            case "i8":
                low, high = columns[0].values.astype(np.int64) & 0xFFFFFFFF, columns[1].values.astype(np.int64)
                return Attribute(type, low + high * 2**32, columns[0].start)
            case "f8" | "u1" if info.is_list:
                return Attribute(type, columns[0].values.astype(info.dtype), columns[0].start)
        stacked = np.stack([column.values.astype(info.dtype) for column in columns], axis=1)
        return Attribute.of(stacked.reshape(len(stacked), *info.shape), type)
    except (AssertionError, ValueError, IndexError, GeometryError):
        raise FormatError(
            f"the values of '{columns[0].name}' are not {with_article(type)}, as a comment in the header says"
        ) from None


FORMAT = Format("ply", "PLY", read, write, EVERYTHING, {"encoding": ("binary", "ascii")}, ENCODING, mapped=True)
