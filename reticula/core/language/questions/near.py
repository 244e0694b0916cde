"""``near``: all points within a radius."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.language.questions.question import POINTS, Asked, Question, question
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import INTEGER, NUMBER, VEC3, ElementOf, ListOf
from reticula.core.spatial.points import points_of

AT_ONCE = 512
"""Neighbours that room is made for without counting them first."""


def _run(geo: Geo, given: Sequence[AnyArray]) -> Any:
    start, item, _ = points_of(geo).near(given[0], given[1], given[2] if len(given) > 2 else None)
    return start, item


def _looked_for(emit: QuestionWriter, asked: Asked) -> str:
    return f"{emit.bind.point_tree(asked.owner)}, {asked.at}, {asked.arguments[1][0]}"


def _code(emit: QuestionWriter, asked: Asked) -> Any:
    """With a small limit they are looked for at once, else counted before."""
    wanted, limit = _looked_for(emit, asked), asked.optional(2, str(2**62))
    count = f"count_one({wanted}, {limit}, count_scratch)"
    if len(asked.arguments) > 2:
        count = f"max({limit}, 0) if {limit} <= {AT_ONCE} else {count}"
    room = emit.let(f"room_for({count}, err, {asked.place()})")
    if emit.in_function:
        found, far = emit.let(f"np.empty({room}, np.int64)"), emit.let(f"np.empty({room})")
    else:
        found, far = _kept_room(emit, room)
    count = emit.let(f"fill_one({wanted}, Row({found}, {far}, 0, {room}), scratch)")
    return emit.stored(found, count, ListOf(ElementOf("point", asked.owner)))


def _kept_room(emit: QuestionWriter, room: str) -> tuple[str, str]:
    """Arrays for found points that are used again for the next element.

    Not in functions, which may call themselves.
    """
    found, far = emit.fresh("g"), emit.fresh("g")
    emit.kept_arrays += [f"{found} = np.empty({AT_ONCE}, np.int64)", f"{far} = np.empty({AT_ONCE})"]
    with emit.out.block(f"if {room} > len({found}):"):
        emit.out.add(f"{found}, {far} = np.empty({room}, np.int64), np.empty({room})")
    return found, far


question(
    Question(
        "near(p, radius, most)",
        "points within a radius, nearest first",
        "len(geo.near((0.5, 0.5, 0.5), 1.1)) == 4",
        (VEC3, NUMBER, INTEGER),
        2,
        POINTS,
        _run,
        _code,
        named="most",
        count=lambda emit, asked: emit.let(
            f"count_one({_looked_for(emit, asked)}, {asked.optional(2, str(2**62))}, count_scratch)"
        ),
    )
)
