"""``closest``: the closest place on a surface, or on curves or points where there is no surface."""

from __future__ import annotations

from reticula.core.language.questions.nearest import nearest_code
from reticula.core.language.questions.place_fields import ON_SURFACES
from reticula.core.language.questions.place_parts import place_parts, what_lies_on
from reticula.core.language.questions.question import PLACE, Asked, Question, largest, question, within
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import NUMBER, VEC3
from reticula.core.spatial.sampling import sample_closest


def _code(emit: QuestionWriter, asked: Asked) -> list[str]:
    if asked.on == "points":
        return nearest_code(emit, asked)
    tree = emit.bind.surface_tree(asked.owner, curves=asked.on == "curves")
    return place_parts(
        emit, f"closest_one({tree}, {asked.at}, {asked.optional(1, 'np.inf')}, scratch, place)", asked.on
    )


question(
    Question(
        "closest(p, reach)",
        "closest place on the surface",
        "geo.closest((0, 2, 0)).distance == 1.5",
        (VEC3, NUMBER),
        1,
        PLACE,
        lambda geo, given: within(sample_closest(geo, given[0], largest(given, 1)), given, 1),
        _code,
        ON_SURFACES,
        where=what_lies_on,
    )
)
