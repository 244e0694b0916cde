"""``nearest``: the nearest point."""

from __future__ import annotations

from reticula.core.language.questions.place_fields import ON_POINTS
from reticula.core.language.questions.place_parts import place_parts
from reticula.core.language.questions.question import PLACE, Asked, Question, largest, question, within
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import NUMBER, VEC3
from reticula.core.spatial.sampling import sample_points

__all__ = ["nearest_code"]


def nearest_code(emit: QuestionWriter, asked: Asked) -> list[str]:
    """Write the search for the nearest point."""
    tree = emit.bind.point_tree(asked.owner)
    return place_parts(emit, f"nearest_one({tree}, {asked.at}, {asked.optional(1, 'np.inf')}, scratch)", "points")


question(
    Question(
        "nearest(p, reach)",
        "nearest point",
        "geo.nearest((0.5, 2.5, 0.5)).distance == 2",
        (VEC3, NUMBER),
        1,
        PLACE,
        lambda geo, given: within(sample_points(geo, given[0], largest(given, 1)), given, 1),
        nearest_code,
        ON_POINTS,
    )
)
