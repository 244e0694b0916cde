"""Paint: values laid on by strokes of a brush."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, cast

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.edit.placement import to_own_space
from reticula.core.geometry.measure.areas import face_centers
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.language.scope import adjacent
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice, Number, Parameter, Toggle
from reticula.core.operators.scripting.controls import Color
from reticula.core.operators.shared.strokes.anchors import anchored, is_anchor
from reticula.core.operators.shared.strokes.dabs import nearest_dab
from reticula.core.words import with_article

__all__ = ["MODES", "paint"]

MODES = {
    "replace": "towards the value",
    "add": "the value on top",
    "erase": "back to what was there",
    "smooth": "towards the mean of the neighbours",
}
MOST_STROKES = 2_000
MOST_DABS = 100_000


@dataclass(frozen=True)
class Strokes(Parameter):
    """Strokes: ``dabs`` (x, y, z in m and a pressure in 0..1) with the ``anchors`` that hold them, radius, strength,
    mode, and the value or colour laid on. Dabs are in the space of the shape, of a stroke in ``world`` in the world.
    """

    widget: ClassVar[str] = "strokes"
    python: ClassVar[str] = "Sequence[Mapping[str, Any]]"

    def check(self, value: Any) -> Any:
        return self.check_plain(value)

    def check_plain(self, value: Any) -> list[dict[str, Any]]:
        if isinstance(value, (str, bytes)) or not isinstance(value, (list, tuple)) or len(value) > MOST_STROKES:
            self.fail(f"takes up to {MOST_STROKES:,} strokes")
        made = [self._stroke(number, stroke) for number, stroke in enumerate(value)]
        if sum(len(stroke["dabs"]) for stroke in made) > MOST_DABS:
            self.fail(f"takes up to {MOST_DABS:,} dabs in all strokes; put a second paint card after this one")
        return made

    def _stroke(self, number: int, stroke: Any) -> dict[str, Any]:
        where = f"stroke {number + 1}"
        if not isinstance(stroke, Mapping) or not isinstance(stroke.get("dabs"), (list, tuple)) or not stroke["dabs"]:
            self.fail(f"{where} has no dabs")
        dabs = [[self._number(part, where) for part in dab] for dab in stroke["dabs"]]
        if any(len(dab) != 4 for dab in dabs):
            self.fail(f"{where}: a dab has four numbers: x, y, z and a pressure")
        if stroke.get("mode", "replace") not in MODES:
            self.fail(f"{where}: the mode is one of {', '.join(MODES)}, not {stroke['mode']!r}")
        color = [self._number(part, where) for part in stroke.get("color", (1.0, 1.0, 1.0, 1.0))]
        anchors = stroke.get("anchors") or []
        if not isinstance(anchors, (list, tuple)) or not all(map(is_anchor, anchors)):
            self.fail(f"{where}: an anchor is the name of a face, three of its corners, two shares and a size")
        if anchors and len(anchors) != len(dabs):
            self.fail(f"{where} has {len(dabs)} dabs and {len(anchors)} anchors; each dab needs one")
        radius = self._number(stroke.get("radius", 0.1), where)
        if radius <= 0 or len(color) != 4:
            self.fail(f"{where}: the radius must be above 0, and a colour has four numbers")
        return {
            "dabs": dabs,
            **({"anchors": [list(one) for one in anchors]} if anchors else {}),
            **({"world": True} if stroke.get("world") else {}),
            "radius": radius,
            "strength": min(max(self._number(stroke.get("strength", 1.0), where), 0.0), 1.0),
            "mode": stroke.get("mode", "replace"),
            "value": self._number(stroke.get("value", 1.0), where),
            "color": color,
            "hard": bool(stroke.get("hard", False)),
            "mirror": bool(stroke.get("mirror", False)),
        }

    def _number(self, value: Any, where: str) -> float:
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
            self.fail(f"{where}: takes finite numbers, not {value!r}")
        return float(value)


@operator(
    "paint",
    family="attributes",
    keywords=("brush", "draw", "mask", "weight", "colour", "touch up", "hand", "pen"),
    sections={
        "brush": ("hard", "mirror"),
        "attribute": ("kind", "holds", "start"),
    },
    carries="Carries all; adds or changes the painted attribute.",
    example="""
        tile = grid(cells=[40, 40])
        painted = paint(
            tile,
            name="wet",
            radius=0.2,
            strokes=[
                {
                    "dabs": [[-0.25, 0, 0.1, 1], [-0.08, 0, 0, 1], [0.08, 0, 0, 1], [0.25, 0, 0.1, 1]],
                    "radius": 0.2,
                    "value": 1,
                }
            ],
        )
        remap(painted, value="wet", name="color", through="gradient")
    """,
    related=("edit_values", "group_picked", "blur_values"),
    parameters=(
        AttributeName("name", "painted", "attribute that is painted; what it holds already is painted over", new=True),
        KindChoice("kind", "point", "what has the attribute", options={"point": "points", "face": "faces"}),
        Choice(
            "holds",
            "number",
            "what is painted",
            options={"number": "a number", "flag": "a group", "color": "a colour with alpha"},
        ),
        Number(
            "start",
            0.0,
            "value where nothing is painted, if the attribute is new",
            soft=(0, 1),
            shown_when=("holds", "number"),
        ),
        Choice("mode", "replace", "what the next stroke does", options=MODES),
        Number(
            "radius",
            {"formula": "0.03 * extent"},
            "size of the brush for the next stroke",
            unit="m",
            soft=(0.002, 0.5),
            low=1e-9,
        ),
        Number("strength", 1.0, "how much one stroke lays on", soft=(0, 1), low=0.0, high=1.0),
        Number("value", 1.0, "number that is laid on", soft=(0, 1), shown_when=("holds", "number")),
        Color("color", [0.8, 0.2, 0.1, 1.0], "colour that is laid on, linear light", shown_when=("holds", "color")),
        Toggle("hard", False, "the brush has a hard edge instead of a soft one"),
        Toggle("mirror", False, "the next stroke is laid on the other side of x = 0, too"),
        Strokes("strokes", [], "what was painted; each stroke is one step back"),
    ),
)
def paint(
    geo: Geo,
    *,
    name: str,
    kind: str,
    holds: str,
    start: float,
    mode: str,
    radius: float,
    strength: float,
    value: float,
    color: list[float],
    hard: bool,
    mirror: bool,
    strokes: Sequence[dict[str, Any]],
) -> Geo:
    """Paint an attribute by hand: choose the card, take the tool paint in the view, and drag over the surface.

    Strokes are held by faces and the place in them, so they follow when the surface moves, bends or is scaled, and stay
    where they are when other faces come and go; where a face is gone, they stay in space.
    """
    on = cast(Kind, kind)
    middles = geo.positions if on == "point" else face_centers(geo)
    before = _before(geo, on, name, holds, start)
    values, touched = before.copy(), np.zeros(len(middles), bool)
    for stroke in strokes:
        weight = _weights(geo, middles, stroke)
        hit = weight > 0
        touched |= hit
        _lay(geo, on, values, before, weight, hit, stroke, holds)
    if strokes and not touched.any():
        warn("No stroke meets this shape; was it moved? Paint it anew, or move it back.")
    elif strokes:
        note(f"{len(strokes):,} strokes over {int(touched.sum()):,} of {len(middles):,} {PLURAL[on]}.")
    else:
        note("Nothing is painted yet: take the tool paint in the view.")
    type = {"number": "number", "flag": "flag", "color": "vec4"}[holds]
    return geo.with_attribute(on, name, Attribute.of(values > 0.5 if holds == "flag" else values, type))


def _before(geo: Geo, kind: Kind, name: str, holds: str, start: float) -> Floats:
    """What there is before the first stroke, as numbers ``(N,)`` or colours ``(N, 4)``."""
    count = geo.topology.count(kind)
    found = geo.attributes[kind].get(name)
    if found is not None and found.start is None and holds == "color" and found.type in ("vec3", "vec4"):
        plain = found.values.astype(np.float64)
        return plain if found.type == "vec4" else np.column_stack([plain, np.ones(count)])
    if found is not None and found.start is None and holds != "color" and found.type in ("number", "integer", "flag"):
        return found.values.astype(np.float64)
    if found is not None:
        warn(f"'{name}' was {with_article(found.type)}, so the paint begins anew.")
    return np.ones((count, 4)) if holds == "color" else np.full(count, start if holds == "number" else 0.0)


def _weights(geo: Geo, middles: Floats, stroke: Mapping[str, Any]) -> Floats:
    """How much of a stroke each element gets ``(N,)``: by the nearest dab, for its size, and that one's pressure."""
    dabs = np.array(stroke["dabs"], np.float64)
    places, pressure = dabs[:, :3], dabs[:, 3]
    if stroke.get("world"):
        places = to_own_space(geo, places)
    places, growth = anchored(geo, stroke.get("anchors", []), places)
    if stroke["mirror"]:
        places = np.concatenate([places, places * [-1.0, 1.0, 1.0]])
        pressure, growth = np.tile(pressure, 2), np.tile(growth, 2)
    number, near = nearest_dab(geo, middles, places, stroke["radius"] * growth)
    met = number >= 0
    weight = np.zeros(len(middles))
    soft = near[met] * near[met] * (3.0 - 2.0 * near[met])
    weight[met] = stroke["strength"] * np.clip(pressure[number[met]], 0.0, 1.0) * (1.0 if stroke["hard"] else soft)
    return weight


def _lay(
    geo: Geo,
    kind: Kind,
    values: Floats,
    before: Floats,
    weight: Floats,
    hit: Any,
    stroke: Mapping[str, Any],
    holds: str,
) -> None:
    """Lay one stroke on ``values``, in place."""
    share = weight[hit] if values.ndim == 1 else weight[hit][:, None]
    mode = stroke["mode"]
    if holds == "flag" and mode != "smooth":
        values[hit] = np.where(share > 0, before[hit] if mode == "erase" else 1.0, values[hit])
        return
    laid = np.array(stroke["color"]) if holds == "color" else stroke["value"]
    if mode == "add":
        values[hit] = values[hit] + share * laid
        return
    if mode == "smooth":
        first, around = adjacent(geo, kind, "neighbours")
        sums = np.add.reduceat(np.concatenate([values[around], np.zeros((1, *values.shape[1:]))]), first[:-1], axis=0)
        count = np.diff(first)
        sums[count == 0] = values[count == 0]
        laid = (sums / np.maximum(count, 1).reshape(-1, *[1] * (values.ndim - 1)))[hit]
    elif mode == "erase":
        laid = before[hit]
    values[hit] = values[hit] * (1.0 - share) + share * laid
