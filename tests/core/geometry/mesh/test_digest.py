"""Digests: equal geometries have equal ones, and every part counts."""

from __future__ import annotations

from reticula.core import Geo, ops


def test_every_part_of_a_geometry_counts() -> None:
    tile = ops.grid(cells=(1, 2))
    assert tile.digest == ops.grid(cells=(1, 2)).digest
    others = [
        ops.grid(cells=(2, 1)),
        ops.reverse(tile),
        tile.with_attribute("point", "cover", [0.0] * 6),
        tile.with_attribute("point", "cover", [0] * 6),
        tile.with_attribute("face", "word", ["a", "bc"]),
        tile.with_attribute("face", "word", ["ab", "c"]),
        Geo.of(tile.positions),
        ops.place_instances(Geo.of(tile.positions), ops.box()),
        ops.place_instances(Geo.of(tile.positions), ops.grid()),
    ]
    digests = [other.digest for other in others]
    assert len({tile.digest, *digests}) == len(others) + 1
