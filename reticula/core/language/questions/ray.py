"""``ray``: the first place that a ray hits."""

from __future__ import annotations

from reticula.core.language.questions.place_fields import ON_SURFACES
from reticula.core.language.questions.place_parts import place_parts
from reticula.core.language.questions.question import PLACE, Asked, Question, largest, question, within
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import NUMBER, VEC3
from reticula.core.spatial.sampling import sample_ray


def _code(emit: QuestionWriter, asked: Asked) -> list[str]:
    origin, direction = asked.arguments[:2]
    long = emit.let(f"np.sqrt({' + '.join(f'{d} * {d}' for d in direction)})")
    for k in range(3):
        emit.out.add(f"origin[{k}] = {origin[k]}")
        emit.out.add(f"along[{k}] = {direction[k]} / {long} if {long} > 0.0 else 0.0")
    ray = f"Ray(origin, along, 0.0, {asked.optional(2, 'np.inf')})"
    return place_parts(emit, f"hit_one({emit.bind.surface_tree(asked.owner)}, {ray}, scratch, inverse, place)", "faces")


question(
    Question(
        "ray(origin, direction, reach)",
        "first place that a ray hits",
        "geo.ray((0, 2, 0), (0, -1, 0)).distance == 1.5",
        (VEC3, VEC3, NUMBER),
        2,
        PLACE,
        lambda geo, given: within(sample_ray(geo, given[0], given[1], largest(given, 2)), given, 2),
        _code,
        ON_SURFACES,
        where=lambda geo: "faces",
    )
)
