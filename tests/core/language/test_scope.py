"""What is around an element, against plain Python over the faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.scope import AROUND, BUILTINS, Scope, adjacent


def rows(geo: Geo, kind: Kind, around: str) -> list[list[int]]:
    start, index = adjacent(geo, kind, around)
    return [sorted(set(index[a:b].tolist())) for a, b in zip(start[:-1], start[1:], strict=True)]


def plain(geo: Geo, kind: str, around: str) -> list[list[int]]:
    """The same, written out element by element."""
    shape = geo.topology
    faces = [face.tolist() for face in np.split(shape.corner_point, shape.face_start[1:-1])]
    sides = [[frozenset(pair) for pair in zip(face, face[1:] + face[:1], strict=True)] for face in faces]
    edges = [frozenset(edge) for edge in shape.edges.tolist()]
    corners = [(f, p) for f, face in enumerate(faces) for p in face]
    curves = [curve.tolist() for curve in np.split(shape.curve_point, shape.curve_start[1:-1])]
    match kind, around:
        case "point", "faces":
            return [[f for f, face in enumerate(faces) if p in face] for p in range(shape.point_count)]
        case "point", "corners":
            return [[c for c, (_, q) in enumerate(corners) if p == q] for p in range(shape.point_count)]
        case "point", "edges":
            return [[e for e, edge in enumerate(edges) if p in edge] for p in range(shape.point_count)]
        case "point", "neighbours":
            return [sorted({q for edge in edges if p in edge for q in edge} - {p}) for p in range(shape.point_count)]
        case "edge", "points":
            return [sorted(edge) for edge in edges]
        case "edge", "faces":
            return [[f for f, own in enumerate(sides) if edge in own] for edge in edges]
        case "corner", "point":
            return [[p] for _, p in corners]
        case "corner", "face":
            return [[f] for f, _ in corners]
        case "face", "points":
            return [sorted(set(face)) for face in faces]
        case "face", "corners":
            return [[c for c, (g, _) in enumerate(corners) if f == g] for f in range(len(faces))]
        case "face", "edges":
            return [sorted(edges.index(side) for side in own) for own in sides]
        case "face", "neighbours":
            return [
                [g for g, other in enumerate(sides) if g != f and set(own) & set(other)] for f, own in enumerate(sides)
            ]
        case "curve", "points":
            return [sorted(set(curve)) for curve in curves]
    raise AssertionError((kind, around))


@pytest.mark.parametrize(("kind", "around"), [(kind, word) for kind, words in AROUND.items() for word in words])
def test_everything_around(mixed: Geo, kind: Kind, around: str) -> None:
    assert rows(mixed, kind, around) == plain(mixed, kind, around)
    solid = ops.extrude(ops.cylinder(segments=5), where="cap", distance=0.3)
    if kind != "curve":
        assert rows(solid, kind, around) == plain(solid, kind, around)


@pytest.mark.parametrize(("name", "kind"), [(name, kind) for name, entry in BUILTINS.items() for kind in entry.read])
def test_built_ins_have_the_type_they_say(mixed: Geo, name: str, kind: Kind) -> None:
    values = np.asarray(Scope(mixed, kind).values(kind, name))
    type = BUILTINS[name].type
    assert values.dtype.kind == np.dtype(type.dtype).kind
    assert values.shape[1:] == type.shape
    assert len(values) in (1, mixed.topology.count(kind))


def test_an_attribute_wins_over_a_built_in(cube: Geo) -> None:
    own = cube.with_attribute("face", "area", np.arange(6.0))
    assert Scope(own, "face").values("face", "area").tolist() == [0, 1, 2, 3, 4, 5]
    assert Scope(own, "face").kinds_with("area") == ["face"]
    assert "depth" in Scope(own, "face", {"depth": 1.0}).names("face")
