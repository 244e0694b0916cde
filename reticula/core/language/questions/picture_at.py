"""``at``: the value of a picture."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.geometry.pictures import has_picture, picture_of, sample_picture
from reticula.core.language.questions.question import Asked, Question, question
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import VEC2, VEC4


@once_per_geo
def _pixels(geo: Geo) -> AnyArray:
    return picture_of(geo).linear()


@once_per_geo
def _numbers(geo: Geo) -> AnyArray:
    """Return columns, rows, and the numbers of the rules between and beyond pixels."""
    picture = picture_of(geo)
    return np.array([*picture.size, *picture.rules])


def _run(geo: Geo, given: Sequence[AnyArray]) -> Floats:
    picture = picture_of(geo)
    return sample_picture(_pixels(geo), picture.size, picture.rules, given[0])


def _code(emit: QuestionWriter, asked: Asked) -> list[str]:
    geo = emit.scope.of(asked.owner).geo
    pixels = emit.bind.array(("picture", asked.owner), "float32", 2, lambda texts: _pixels(geo))
    numbers = emit.bind.array(("picture rules", asked.owner), "int64", 1, lambda texts: _numbers(geo))
    size, rules = (f"({numbers}[{k}], {numbers}[{k + 1}])" for k in (0, 2))
    emit.out.add(f"picture_at({pixels}, {size}, {rules}, {', '.join(asked.arguments[0])}, place)")
    return [emit.let(f"place[{k}]") for k in range(4)]


def _lacks(geo: Geo) -> str:
    return "" if has_picture(geo) else "carries no picture; bring one in by 'read picture'"


question(
    Question(
        "at(uv)",
        "red, green, blue and opacity of its picture, by parts of its width and height",
        "geo.at((0.25, 0.75)).x == 0.5",
        (VEC2,),
        1,
        VEC4,
        _run,
        _code,
        lacks=_lacks,
    )
)
