"""A hash of all that a geometry holds."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["digest_of"]


def digest_of(
    topology: Topology, attributes: Mapping[Kind, Mapping[str, Attribute]], prototypes: Sequence[str] = ()
) -> str:
    """Return 32 hexadecimal digits; equal ones mean equal bytes. ``prototypes`` are the digests of what is placed."""
    hasher = hashlib.blake2b(digest_size=16)
    for array in (
        topology.face_start,
        topology.corner_point,
        topology.curve_start,
        topology.curve_point,
        topology.curve_closed,
    ):
        hasher.update(str(len(array)).encode())
        hasher.update(array.tobytes())
    for prototype in prototypes:
        hasher.update(prototype.encode())
    for kind in KINDS:
        for name in sorted(attributes[kind]):
            found = attributes[kind][name]
            hasher.update(f"{kind}/{name}/{found.type}/{found.values.shape}".encode())
            hasher.update(found.values.tobytes() if found.values.dtype.kind != "U" else _text_bytes(found.values))
            if found.start is not None:
                hasher.update(found.start.tobytes())
    return hasher.hexdigest()


def _text_bytes(values: AnyArray) -> bytes:
    return "\x1f".join(values.tolist()).encode("utf-8", "surrogatepass")
