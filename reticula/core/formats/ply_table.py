"""The tables of a PLY file: header, and element rows with scalar and list properties, in and out.

After Greg Turk, "The PLY Polygon File Format" (1994).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Indices, Ints, ragged_index, starts_from_sizes
from reticula.core.errors import FormatError
from reticula.core.formats.shared.text_lines import Lines, numbers_of
from reticula.core.jit import kernel

__all__ = ["Column", "Element", "read_tables", "write_tables"]

TYPES = {
    "char": "i1",
    "uchar": "u1",
    "short": "i2",
    "ushort": "u2",
    "int": "i4",
    "uint": "u4",
    "float": "f4",
    "double": "f8",
    "int8": "i1",
    "uint8": "u1",
    "int16": "i2",
    "uint16": "u2",
    "int32": "i4",
    "uint32": "u4",
    "float32": "f4",
    "float64": "f8",
}
LONGEST_HEADER = 200_000
MOST_PROPERTIES = 2_000


@dataclass
class Column:
    """One property: its name, type, and values ``(N,)``, or for a list ``start (N+1,)`` and flat values."""

    name: str
    type: str
    count_type: str | None = None
    values: AnyArray = field(default_factory=lambda: np.zeros(0))
    start: Indices | None = None


@dataclass
class Element:
    """One table: its name, number of rows and columns."""

    name: str
    count: int
    columns: list[Column]

    def take(self, rows: Ints) -> None:
        """Keep some rows, in the order given."""
        self.count = len(rows)
        for column in self.columns:
            if column.start is None:
                column.values = column.values[rows]
                continue
            index, column.start = ragged_index(column.start, rows)
            column.values = column.values[index]

    def column(self, *names: str) -> Column | None:
        """Return the first column that has one of ``names``."""
        return next((column for name in names for column in self.columns if column.name == name), None)


def read_tables(data: bytes) -> tuple[list[Element], list[str]]:
    """Return all elements and the comments; raise FormatError with the line or byte of whatever is wrong."""
    encoding, elements, comments, begin, header_lines = _header(data)
    if encoding == "ascii":
        _read_ascii(data[begin:], elements, header_lines)
    else:
        _read_binary(data, begin, elements, "<" if encoding == "binary_little_endian" else ">")
    return elements, comments


def _header(data: bytes) -> tuple[str, list[Element], list[str], int, int]:
    if data[:3] != b"ply":
        raise FormatError("a PLY file begins with the word 'ply'", line=1)
    end = data.find(b"end_header", 0, LONGEST_HEADER)
    stop = data.find(b"\n", end) if end >= 0 else -1
    if end < 0:
        raise FormatError("there is no 'end_header'; the file is cut short or no PLY file", line=1)
    if stop < 0:
        stop = len(data) - 1
    encoding, elements, comments = "", [], []
    lines = data[:end].decode("utf-8", "replace").split("\n")
    for number, line in enumerate(lines, 1):
        words = line.split()
        if not words or number == 1:
            continue
        match words:
            case ["format", kind, "1.0"] if kind in ("ascii", "binary_little_endian", "binary_big_endian"):
                encoding = kind
            case ["comment" | "obj_info", *_]:
                comments.append(line.strip().partition(" ")[2])
            case ["element", name, count] if count.isdigit() and len(count) < 16:
                elements.append(Element(name, int(count), []))
            case ["property", "list", count_type, type, name] if elements and count_type in TYPES and type in TYPES:
                elements[-1].columns.append(Column(name, TYPES[type], TYPES[count_type]))
            case ["property", type, name] if elements and type in TYPES:
                elements[-1].columns.append(Column(name, TYPES[type]))
            case _:
                raise FormatError(f"'{line.strip()[:60]}' is not understood", line=number)
        if elements and len(elements[-1].columns) > MOST_PROPERTIES:
            raise FormatError(f"an element has more than {MOST_PROPERTIES:,} properties", line=number)
    if not encoding:
        raise FormatError("the header does not name a known format", line=2)
    return encoding, elements, comments, stop + 1, len(lines)


def _room(element: Element, least: int, left: int, *, line: int | None = None, byte: int | None = None) -> None:
    """Refuse a count that the rest of the file cannot hold, before anything is allocated."""
    if element.count * max(least, 1) > left:
        raise FormatError(
            f"the header promises {element.count:,} rows of '{element.name}', but the file ends before; "
            "it is cut short",
            line=line,
            byte=byte,
        )


class _Layout(NamedTuple):
    """A row of a binary table: the bytes of each value or list item, those of a list's count (0 for a scalar), and
    whether the lowest byte comes first.
    """

    sizes: Ints
    counts: Ints
    little: bool


@kernel
def _walk(data: AnyArray, begin: int, layout: _Layout, where: Ints, length: Ints) -> int:
    """Find each column of each row of a binary table.

    ``where (rows, columns)`` receives the byte of the value or of the first list item, ``length`` the list's length.
    Returns the byte after the last row, or -1 - row if the data end inside a row.
    """
    sizes, counts, little = layout
    at = begin
    for r in range(len(where)):
        for c in range(len(sizes)):
            number = 1
            if counts[c]:
                if at + counts[c] > len(data):
                    return -1 - r
                number = 0
                for b in range(counts[c]):
                    place = counts[c] - 1 - b if little else b
                    number = number * 256 + data[at + place]
                at += counts[c]
            where[r, c] = at
            length[r, c] = number
            at += number * sizes[c]
            if at > len(data):
                return -1 - r
    return at


def _read_binary(data: bytes, begin: int, elements: list[Element], order: str) -> None:
    raw = np.frombuffer(data, np.uint8)
    for element in elements:
        sizes = np.array([int(column.type[1]) for column in element.columns], np.int64)
        counts = np.array([int(c.count_type[1]) if c.count_type else 0 for c in element.columns], np.int64)
        least = int(np.where(counts, counts, sizes).sum())
        _room(element, least, len(data) - begin, byte=begin)
        if not element.columns:
            continue
        read = _read_even(data, begin, element, _Layout(sizes, counts, order == "<"))
        if read is not None:
            begin = read
            continue
        where = np.empty((element.count, len(sizes)), np.int64)
        length = np.empty_like(where)
        after = _walk(raw, begin, _Layout(sizes, counts, order == "<"), where, length)
        if after < 0:
            raise FormatError(f"row {-1 - after:,} of '{element.name}' is cut short", byte=len(data))
        for i, column in enumerate(element.columns):
            size = int(sizes[i])
            if counts[i]:
                column.start = starts_from_sizes(length[:, i])
                own = np.repeat(np.arange(element.count), length[:, i])
                items = where[own, i] + (np.arange(len(own)) - column.start[own]) * size
            else:
                items = where[:, i]
            picked = np.ascontiguousarray(raw[items[:, None] + np.arange(size)])
            column.values = picked.view(order + column.type).reshape(-1).astype(column.type)
        begin = after


def _read_even(data: bytes, begin: int, element: Element, layout: _Layout) -> int | None:
    """Read a table in which the lists of a column are all as long as in its first row; return the byte after it.

    Others are left alone (None).
    """
    if not element.count:
        return None if layout.counts.any() else begin
    length = np.empty((1, len(layout.sizes)), np.int64)
    if _walk(np.frombuffer(data, np.uint8), begin, layout, np.empty_like(length), length) < 0:
        return None
    record = _record(element, length[0].tolist(), "<" if layout.little else ">")
    if (layout.counts.any() and not length.all()) or begin + record.itemsize * element.count > len(data):
        return None
    table = np.frombuffer(data, record, element.count, begin)
    for i, column in enumerate(element.columns):
        if column.count_type and (table[f"count {i}"] != length[0, i]).any():
            return None
    types = {column.type for column in element.columns}
    if len(types) == 1 and not layout.counts.any():
        # Numbers of one kind lie side by side: one copy, of which the columns are views.
        plain = np.frombuffer(data, record[0], element.count * len(element.columns), begin)
        block = plain.astype(types.pop()).reshape(element.count, -1)
        for i, column in enumerate(element.columns):
            column.values = block[:, i]
        return begin + record.itemsize * element.count
    for i, column in enumerate(element.columns):
        column.values = np.array(table[str(i)], column.type).reshape(-1)
        if column.count_type:
            column.start = np.arange(element.count + 1, dtype=np.int32) * np.int32(length[0, i])
    return begin + record.itemsize * element.count


def _record(element: Element, lengths: list[int], order: str) -> np.dtype[Any]:
    """The type of a row whose lists have these lengths."""
    fields: list[Any] = []
    for i, (column, length) in enumerate(zip(element.columns, lengths, strict=True)):
        if column.count_type:
            fields.append((f"count {i}", f"{order}u{column.count_type[1]}"))
        fields.append((str(i), order + column.type, (length,)) if column.count_type else (str(i), order + column.type))
    return np.dtype(fields)


@kernel
def _walk_numbers(numbers: AnyArray, begin: int, rows: int, is_list: AnyArray, where: Ints, length: Ints) -> int:
    at = begin
    for r in range(rows):
        for c in range(len(is_list)):
            number = 1
            if is_list[c]:
                if at >= len(numbers) or numbers[at] < 0 or numbers[at] > len(numbers):
                    return -1 - r
                number = int(numbers[at])
                at += 1
            where[r, c] = at
            length[r, c] = number
            at += number
            if at > len(numbers):
                return -1 - r
    return at


def _read_ascii(body: bytes, elements: list[Element], header_lines: int) -> None:
    lines = Lines(body)
    size = lines.end - lines.begin + 1
    size[-1] -= 1
    numbers = numbers_of(body, _words(body), np.arange(len(size)) + header_lines, size)
    at = 0
    for element in elements:
        _room(element, len(element.columns), len(numbers) - at, line=header_lines + len(size))
        is_list = np.array([column.count_type is not None for column in element.columns], bool)
        where = np.empty((element.count, len(is_list)), np.int64)
        length = np.empty_like(where)
        after = _walk_numbers(numbers, at, element.count, is_list, where, length)
        if after < 0:
            raise FormatError(f"row {-1 - after:,} of '{element.name}' is cut short", line=header_lines + len(size))
        for i, column in enumerate(element.columns):
            items = where[:, i]
            if is_list[i]:
                column.start = starts_from_sizes(length[:, i])
                own = np.repeat(np.arange(element.count), length[:, i])
                items = where[own, i] + (np.arange(len(own)) - column.start[own])
            picked = numbers[items]
            if column.type[0] in "iu":
                limits = np.iinfo(column.type)
                if len(picked) and (picked.min() < limits.min or picked.max() > limits.max):
                    raise FormatError(f"'{column.name}' holds a number that its type cannot hold")
            column.values = picked.astype(column.type)
        at = after


def _words(body: bytes) -> int:
    raw = np.frombuffer(body, np.uint8)
    solid = (raw != 32) & ((raw < 9) | (raw > 13))
    return int(solid[:1].sum() + (solid[1:] & ~solid[:-1]).sum())


def write_tables(elements: list[Element], comments: list[str], encoding: str) -> bytes:
    """Return a PLY file of the given elements."""
    names = {code: name for name, code in reversed(TYPES.items())}
    header = ["ply", f"format {'ascii' if encoding == 'ascii' else 'binary_little_endian'} 1.0"]
    header += [f"comment {comment}" for comment in comments]
    for element in elements:
        header.append(f"element {element.name} {element.count}")
        for column in element.columns:
            kind = f"list {names[column.count_type]} " if column.count_type else ""
            header.append(f"property {kind}{names[column.type]} {column.name}")
    head = ("\n".join([*header, "end_header"]) + "\n").encode()
    body = _write_ascii if encoding == "ascii" else _write_binary
    return b"".join([head, *(body(element) for element in elements if element.count and element.columns)])


def _write_binary(element: Element) -> bytes | memoryview:
    lengths = [1 if column.start is None else _even_length(column.start) for column in element.columns]
    if all(lengths):
        table = np.empty(element.count, _record(element, lengths, "<"))
        for i, (column, length) in enumerate(zip(element.columns, lengths, strict=True)):
            if column.start is not None:
                table[f"count {i}"] = length
            table[str(i)] = column.values.reshape(table[str(i)].shape)
        return table.view(np.uint8).data
    chunks, sizes = [], []
    for column in element.columns:
        width = int(column.type[1])
        flat = np.ascontiguousarray(column.values.astype("<" + column.type)).view(np.uint8).reshape(-1)
        if column.start is None:
            chunks.append(flat)
            sizes.append(np.full(element.count, width))
            continue
        counts = np.diff(column.start)
        assert column.count_type is not None
        chunks.append(np.ascontiguousarray(counts.astype("<" + column.count_type)).view(np.uint8).reshape(-1))
        sizes.append(np.full(element.count, int(column.count_type[1])))
        chunks.append(flat)
        sizes.append(counts * width)
    return _interleave(chunks, sizes)


def _even_length(start: AnyArray) -> int:
    """Return how long all lists are; 0 if they are not as long as each other."""
    length = int(start[1] - start[0])
    return length if (np.diff(start) == length).all() else 0


def _interleave(chunks: list[AnyArray], sizes: list[AnyArray]) -> bytes:
    """Return row 0 of every chunk, then row 1 of every chunk, and so on; ``sizes`` are bytes per row."""
    table = np.stack(sizes, axis=1)
    before = np.cumsum([0, *(len(chunk) for chunk in chunks)])[:-1]
    own = np.cumsum(table, axis=0) - table + before[None, :]
    starts = starts_from_sizes(table.reshape(-1)).astype(np.int64)
    flat = np.arange(starts[-1]) + np.repeat(own.reshape(-1) - starts[:-1], table.reshape(-1))
    joined: AnyArray = np.concatenate(chunks)
    return joined[flat].tobytes()


def _write_ascii(element: Element) -> bytes:
    rows: list[list[str]] = [[] for _ in range(element.count)]
    for column in element.columns:
        form = "%d" if column.type[0] in "iu" else "%.17g"
        words = [form % value for value in column.values.tolist()]
        if column.start is None:
            for row, word in zip(rows, words, strict=True):
                row.append(word)
            continue
        starts = column.start.tolist()
        for row, first, last in zip(rows, starts[:-1], starts[1:], strict=True):
            row.append(str(last - first))
            row += words[first:last]
    return "".join(" ".join(row) + "\n" for row in rows).encode()
