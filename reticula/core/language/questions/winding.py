"""``winding`` and ``inside``: how often a surface goes round a place."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.language.questions.question import Asked, Question, question
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import FLAG, NUMBER, VEC3
from reticula.core.spatial.winding import FAR, winding_numbers


def _winding(geo: Geo, given: Sequence[AnyArray]) -> Floats:
    return winding_numbers(geo, np.ascontiguousarray(given[0], np.float64))


def _code(emit: QuestionWriter, asked: Asked) -> list[str]:
    tree, moments = emit.bind.surface_tree(asked.owner), emit.bind.moments(asked.owner)
    return [emit.let(f"winding_one({tree}, {moments}, {asked.at}, {FAR}, scratch.stack)")]


question(
    Question(
        "inside(p)",
        "whether a place is inside, also of a mesh with holes",
        "geo.inside((0, 0.4, 0)) and not geo.inside((0, 0.6, 0))",
        (VEC3,),
        1,
        FLAG,
        lambda geo, given: _winding(geo, given) > 0.5,
        lambda emit, asked: [emit.let(f"{_code(emit, asked)[0]} > 0.5")],
    )
)
question(
    Question(
        "winding(p)",
        "winding number: 1 inside, 0 outside",
        "abs(geo.winding((0, 0, 0)) - 1) < 1e-6",
        (VEC3,),
        1,
        NUMBER,
        _winding,
        _code,
    )
)
