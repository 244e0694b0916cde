"""The file around a glTF document: JSON and its buffers, in one GLB or in several files."""

from __future__ import annotations

import base64
import binascii
import json
import struct
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import unquote

from reticula.core.errors import FormatError

__all__ = ["Document", "open_document", "pack_glb", "pack_text"]

MAGIC = b"glTF"
JSON_CHUNK, BIN_CHUNK = 0x4E4F534A, 0x004E4942
KNOWN = {"EXT_mesh_gpu_instancing", "KHR_mesh_quantization", "KHR_materials_unlit", "KHR_texture_transform"}
"""Extensions that a file may require: they are read, or change nothing of a shape."""
COMPRESSED = {
    "KHR_draco_mesh_compression": "Draco",
    "EXT_meshopt_compression": "meshopt",
    "KHR_meshopt_compression": "meshopt",
}


@dataclass(frozen=True)
class Document:
    """What a file says, and the bytes it refers to."""

    json: Mapping[str, Any]
    buffers: tuple[bytes, ...]

    def entry(self, name: str, index: Any) -> Mapping[str, Any]:
        """Return one entry of a list of the document; raise FormatError if there is none."""
        found = self.json.get(name)
        if (
            not isinstance(index, int)
            or isinstance(index, bool)
            or not isinstance(found, list)
            or not 0 <= index < len(found)
            or not isinstance(found[index], dict)
        ):
            raise FormatError(f"'{name}' has no entry {index!r}, which something in the file refers to")
        entry: Mapping[str, Any] = found[index]
        return entry

    def listed(self, name: str) -> list[Mapping[str, Any]]:
        """Return the entries of a list of the document; none if it has no such list."""
        found = self.json.get(name, [])
        if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
            raise FormatError(f"'{name}' of the document is no list of objects")
        return found


def open_document(data: bytes, parts: Mapping[str, bytes]) -> Document:
    """Read a GLB or a glTF; ``parts`` are files beside it, by name. Raise FormatError for what is missing or broken."""
    text, first = _split(data) if data[:4] == MAGIC else (data, None)
    try:
        told = json.loads(text.decode("utf-8-sig"))
    except (ValueError, RecursionError) as error:
        raise FormatError(f"the document of a glTF is JSON, and this is none: {error}") from None
    if not isinstance(told, dict) or not isinstance(told.get("asset"), dict):
        raise FormatError("a glTF begins with an object that has an 'asset'; this one has none")
    if not str(told["asset"].get("version", "")).startswith("2."):
        raise FormatError(f"only glTF 2 is read; this file is of version {told['asset'].get('version')!r}")
    required = [name for name in told.get("extensionsRequired", []) if name not in KNOWN]
    if required:
        how = next((COMPRESSED[name] for name in required if name in COMPRESSED), None)
        raise FormatError(
            f"the file is compressed with {how}, which is not read; save it without"
            if how
            else f"the file needs {', '.join(map(str, required))}, which is not read; save it without"
        )
    document = Document(told, ())
    return Document(told, tuple(_buffer(one, i, first, parts) for i, one in enumerate(document.listed("buffers"))))


def _split(data: bytes) -> tuple[bytes, bytes | None]:
    if len(data) < 20:
        raise FormatError("a GLB has a head of 20 bytes; this one is shorter", byte=len(data))
    version, length = struct.unpack_from("<II", data, 4)
    if version != 2:
        raise FormatError(f"only GLB of version 2 is read; this one is of version {version}", byte=4)
    if length > len(data):
        raise FormatError(f"the head promises {length:,} bytes; the file has {len(data):,} and is cut short", byte=8)
    chunks: list[tuple[int, bytes]] = []
    at = 12
    while at + 8 <= length:
        size, kind = struct.unpack_from("<II", data, at)
        if at + 8 + size > length:
            raise FormatError(f"a part of {size:,} bytes begins here; there are {length - at - 8:,}", byte=at)
        chunks.append((kind, data[at + 8 : at + 8 + size]))
        at += 8 + size
    if not chunks or chunks[0][0] != JSON_CHUNK:
        raise FormatError("the first part of a GLB is its document; here it is something else", byte=12)
    binary = next((content for kind, content in chunks[1:] if kind == BIN_CHUNK), None)
    return chunks[0][1], binary


def _buffer(told: Mapping[str, Any], index: int, first: bytes | None, parts: Mapping[str, bytes]) -> bytes:
    uri, length = told.get("uri"), told.get("byteLength")
    if not isinstance(length, int) or length < 0:
        raise FormatError(f"buffer {index} does not say how many bytes it has")
    if uri is None:
        if index or first is None:
            raise FormatError(f"buffer {index} names no file, and the file holds no bytes for it")
        found = first
    elif not isinstance(uri, str):
        raise FormatError(f"the place of buffer {index} is no text")
    elif uri.startswith("data:"):
        head, _, body = uri.partition(",")
        try:
            found = base64.b64decode(body, validate=True) if head.endswith(";base64") else unquote(body).encode()
        except (binascii.Error, ValueError):
            raise FormatError(f"the data of buffer {index} are not written in base 64") from None
    else:
        name = unquote(uri)
        if name not in parts:
            raise FormatError(f"the file '{name[:80]}' belongs to this one and is missing; give both together")
        found = parts[name]
    if len(found) < length:
        raise FormatError(f"buffer {index} promises {length:,} bytes; there are {len(found):,}")
    return found


def pack_glb(told: Mapping[str, Any], binary: bytes) -> bytes:
    """Return a GLB of a document whose one buffer is ``binary``."""
    text = _padded(_text(told), b" ")
    binary = _padded(binary, b"\0")
    length = 12 + 8 + len(text) + (8 + len(binary) if binary else 0)
    out = [MAGIC, struct.pack("<II", 2, length), struct.pack("<II", len(text), JSON_CHUNK), text]
    if binary:
        out += [struct.pack("<II", len(binary), BIN_CHUNK), binary]
    return b"".join(out)


def pack_text(told: dict[str, Any], binary: bytes) -> bytes:
    """Return a glTF with its one buffer inside."""
    if told.get("buffers"):
        uri = "data:application/octet-stream;base64," + base64.b64encode(binary).decode()
        told = {**told, "buffers": [{**told["buffers"][0], "uri": uri}]}
    return _text(told)


def _text(told: Mapping[str, Any]) -> bytes:
    return json.dumps(told, ensure_ascii=False, separators=(",", ":"), allow_nan=False).encode("utf-8", "replace")


def _padded(data: bytes, fill: bytes) -> bytes:
    return data + fill * (-len(data) % 4)
