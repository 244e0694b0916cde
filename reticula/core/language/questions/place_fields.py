"""What can be read of every place besides attributes. Where nothing is found, the distance is -1 and vectors are 0."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.measure.areas import point_normals
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import FLAG, INTEGER, NUMBER, VEC3, Type
from reticula.core.spatial.sampling import Sample
from reticula.core.spatial.surface import surface_of

__all__ = ["ANYWHERE", "ON_POINTS", "ON_SURFACES", "PlaceField"]

Parts = list[str]


@dataclass(frozen=True)
class PlaceField:
    """One of them: its type, how it is read of a Sample ``(N, ...)``, and of a place in generated code.

    ``code`` gets the emitter, the geometry that was asked, what its places lie on, and the components of the place:
    what was hit, how far, then on faces and curves weights and position.
    """

    name: str
    type: Type
    read: Callable[[Sample], AnyArray]
    code: Callable[[QuestionWriter, str, str, Parts], Parts]


def _face(emit: QuestionWriter, owner: str, on: str, place: Parts) -> Parts:
    if on != "faces":
        return ["-1"]
    face = emit.bind.triangle_faces(owner)
    return _guarded(emit, place[0], lambda: [emit.let(f"np.int64({face}[{place[0]}])")], ["-1"])


def _position(emit: QuestionWriter, owner: str, on: str, place: Parts) -> Parts:
    return place[-3:] if on != "points" else _row(emit, emit.bind.attribute("point", owner, "position"), place)


def _normal(emit: QuestionWriter, owner: str, on: str, place: Parts) -> Parts:
    if on == "curves":
        return ["0.0"] * 3
    geo = emit.scope.of(owner).geo
    if on == "faces":
        key = ("triangle normals", owner)
        return _row(emit, emit.bind.array(key, "float64", 2, lambda texts: surface_of(geo).triangle_normals), place)
    own = geo.has("point", "normal")
    rows = emit.bind.array(
        ("point normals", owner),
        "float64",
        2,
        lambda texts: geo.attribute("point", "normal") if own else point_normals(geo),
    )
    return _row(emit, rows, place)


def _row(emit: QuestionWriter, rows: str, place: Parts) -> Parts:
    return _guarded(emit, place[0], lambda: emit.loaded(rows, place[0], 3), ["0.0"] * 3)


def _guarded(emit: QuestionWriter, hit: str, read: Callable[[], Parts], without: Parts) -> Parts:
    """Read something only where a place was found."""
    results = [emit.fresh("r") for _ in without]
    with emit.out.block(f"if {hit} >= 0:"):
        emit.store(results, read())
    with emit.out.block("else:"):
        emit.store(results, without)
    return results


ANYWHERE = (
    PlaceField("position", VEC3, lambda sample: sample.position, _position),
    PlaceField("normal", VEC3, lambda sample: sample.normal, _normal),
    PlaceField("distance", NUMBER, lambda sample: sample.distance, lambda emit, owner, on, place: [place[1]]),
    PlaceField(
        "found",
        FLAG,
        lambda sample: sample.found,
        lambda emit, owner, on, place: [emit.let(f"{place[0]} >= 0")],
    ),
)
ON_SURFACES = (*ANYWHERE, PlaceField("face", INTEGER, lambda sample: sample.face.astype(np.int64), _face))
ON_POINTS = (
    *ANYWHERE,
    PlaceField(
        "index",
        INTEGER,
        lambda found: found.index.astype(np.int64),
        lambda emit, owner, on, place: [place[0]],
    ),
)
