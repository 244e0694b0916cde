"""Lettering: the outlines of words as closed curves."""

from __future__ import annotations

from functools import lru_cache
from importlib import resources
from typing import TYPE_CHECKING, Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, Text
from reticula.core.operators.shared.plane_curves import FACING, curves_of, place_in_plane

if TYPE_CHECKING:
    from fontTools.ttLib import TTFont

__all__ = ["lettering"]

FONT = "atkinson_hyperlegible_next.ttf"


@lru_cache(maxsize=1)
def _font() -> TTFont:
    from fontTools.ttLib import TTFont

    with resources.as_file(resources.files("reticula.core").joinpath("fonts", FONT)) as path:
        return TTFont(path)


@lru_cache(maxsize=4096)
def _outlines(letter: str, weight: int, steps: int) -> tuple[tuple[Floats, ...], float]:
    """Closed outlines of a letter in font units, outer ones counter-clockwise, and how far the next letter stands."""
    from fontTools.pens.recordingPen import DecomposingRecordingPen

    font = _font()
    glyphs = font.getGlyphSet(location={"wght": weight})
    name = font.getBestCmap().get(ord(letter), ".notdef")
    pen: Any = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(pen)
    loops: list[Floats] = []
    loop: list[Any] = []
    share = np.arange(1, steps + 1)[:, None] / steps
    for command, points in pen.value:
        if command == "moveTo":
            loop = [np.array(points[0], np.float64)]
        elif command == "lineTo":
            loop.append(np.array(points[0], np.float64))
        elif command == "qCurveTo":
            control = [np.array(point, np.float64) for point in points]
            for k in range(len(control) - 1):
                begin, middle = loop[-1], control[k]
                end = control[k + 1] if k == len(control) - 2 else 0.5 * (control[k] + control[k + 1])
                loop += list((1 - share) ** 2 * begin + 2 * share * (1 - share) * middle + share**2 * end)
        elif command == "closePath" and len(loop) >= 3:
            ring = np.array(loop)
            ring = ring[np.any(ring != np.roll(ring, 1, axis=0), axis=1)]
            loops.append(ring[::-1])
    return tuple(loops), float(glyphs[name].width)


@operator(
    "lettering",
    family="shapes",
    inputs=(),
    keywords=("text", "words", "font", "type", "label", "number", "engrave"),
    carries="makes the curve attribute letter: the number of the letter, counted from 0 without spaces",
    example="""
        word = lettering(text="Reef 12", size=0.35, weight=700)
        plate = fill(word, what="curve", using="triangles")
        extrude(plate, distance=0.08, keep_base=True)
    """,
    related=("fill", "offset_curve", "extrude"),
    parameters=(
        Text("text", "Reef 12", "what to write; lines are kept"),
        Number("size", 0.2, "height of a line", unit="m", soft=(0.01, 1.0), low=1e-6),
        Integer("weight", 400, "how bold", soft=(200, 800), low=200, high=800, step=100),
        Number("spacing", 0.0, "room between letters, in line heights", soft=(-0.1, 0.5)),
        Choice(
            "align",
            "middle",
            "where lines begin",
            options={
                "left": "at the origin",
                "middle": "their middle is at the origin",
                "right": "they end at the origin",
            },
        ),
        Integer("steps", 6, "points along each bend", soft=(1, 20), low=1, high=200),
        FACING,
    ),
)
def lettering(*, text: str, size: float, weight: int, spacing: float, align: str, steps: int, facing: str) -> Geo:
    """Write words as closed curves; fill makes faces of them, extrude makes them solid.

    The font is Atkinson Hyperlegible Next (SIL Open Font License), which ships with the program; its outlines are
    quadratic Bézier curves. Letters it lacks become a box, and are named.
    """
    per_unit = size / _font()["head"].unitsPerEm
    known = _font().getBestCmap()
    missing = sorted({letter for letter in text if ord(letter) not in known and not letter.isspace()})
    if missing:
        warn(f"The font has no {' '.join(missing)}; a box stands for it.")
    loops: list[Floats] = []
    letters: list[int] = []
    number = 0
    for row, words in enumerate(text.split("\n")):
        at = 0.0
        placed: list[Floats] = []
        for letter in words:
            outlines, width = _outlines(letter if not letter.isspace() else " ", weight, steps)
            placed += [outline * per_unit + [at, 0.0] for outline in outlines]
            letters += [number] * len(outlines)
            number += bool(outlines)
            at += width * per_unit + spacing * size
        length = at - (spacing * size if words else 0.0)
        shift = {"left": 0.0, "middle": -0.5 * length, "right": -length}[align]
        loops += [loop + [shift, -1.2 * size * row] for loop in placed]
    if not loops:
        warn("There is nothing to write.")
        return Geo.empty()
    made = curves_of(place_in_plane(np.concatenate(loops), facing), [len(loop) for loop in loops], True)
    return made.with_attribute("curve", "letter", np.array(letters))
