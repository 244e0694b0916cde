"""Remap: values from one range to another, by a line, a response curve or a colour gradient."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.language import Values
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    KindChoice,
    Number,
    PerElement,
    Selection,
    Toggle,
)
from reticula.core.operators.shared.profiles.gradient import ColorGradient, Gradient
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve
from reticula.core.reports.attribute_writing import range_of, write_attribute
from reticula.core.words import with_article

__all__ = ["remap"]

SEA = [
    [0.0, 0.01, 0.05, 0.14, 1.0],
    [0.35, 0.02, 0.25, 0.33, 1.0],
    [0.7, 0.62, 0.72, 0.42, 1.0],
    [1.0, 0.9, 0.3, 0.12, 1.0],
]


@operator(
    "remap",
    family="attributes",
    keywords=("fit", "range", "scale", "normalise", "clamp", "ramp", "gradient", "colour", "color", "curve", "levels"),
    sections={
        "from": ("from_range", "low", "high"),
        "to": ("to_low", "to_high", "clamp"),
    },
    carries="Carries all; adds or replaces the attribute.",
    example="""
        rock = displace(geodesic_sphere(frequency=40), amount=0.15)
        remap(rock, value="position.y", name="color", through="gradient")
    """,
    related=("remap_value", "measure", "statistics"),
    parameters=(
        KindChoice.of(("point", "face", "edge", "corner", "curve", "instance"), "point", "what has the values"),
        PerElement("value", {"formula": "position.y"}, "attribute or formula to remap", on="kind", type="any"),
        AttributeName("name", "remapped", "attribute to make; 'color' is shown as it is", new=True),
        Choice(
            "from_range",
            "real",
            "which range is mapped",
            options={
                "real": "the lowest and highest value there are",
                "given": "from low to high, below",
                "signed": "-1 to 1, e.g. normals",
            },
        ),
        Number("low", 0.0, "value that becomes the first end", soft=(-2, 2), shown_when=("from_range", "given")),
        Number("high", 1.0, "value that becomes the other end", soft=(-2, 2), shown_when=("from_range", "given")),
        Choice(
            "through",
            "line",
            "how",
            options={
                "line": "straight",
                "response curve": "by a curve",
                "gradient": "to colours",
            },
        ),
        ResponseCurve(
            "curve",
            [[0.0, 0.0], [1.0, 1.0]],
            "share of the way (up) for each share of the range (along)",
            soft=(0.0, 1.0),
            shown_when=("through", "response curve"),
        ),
        ColorGradient("gradient", SEA, "colours along the range", shown_when=("through", "gradient")),
        Number(
            "to_low",
            0.0,
            "what the first end becomes",
            soft=(-2, 2),
            shown_when=("through", ["line", "response curve"]),
        ),
        Number(
            "to_high",
            1.0,
            "what the other end becomes",
            soft=(-2, 2),
            shown_when=("through", ["line", "response curve"]),
        ),
        Toggle("clamp", True, "keep values beyond the range at its ends"),
        Selection(
            "where", "", "which elements are remapped, and counted for the real range; empty means all", on="kind"
        ),
    ),
)
def remap(
    geo: Geo,
    *,
    kind: str,
    value: Values,
    name: str,
    from_range: str,
    low: float,
    high: float,
    through: str,
    curve: Response,
    gradient: Gradient,
    to_low: float,
    to_high: float,
    clamp: bool,
    where: Flags,
) -> Geo:
    """Map values from a range to another one, or to colours. Vectors are mapped component by component.

    ``from_range`` 'signed' with a line from 0 to 1 turns normals into colours in which no direction is black.
    """
    if not value.info.is_numeric:
        raise ParameterError("value", f"this gives {with_article(value.type)}; only numbers and vectors have a range")
    rows: Floats = value.array.astype(np.float64)
    if through == "gradient" and rows.ndim > 1:
        raise ParameterError(
            "through",
            f"a gradient needs one number, and this is {with_article(value.type)}; "
            "take a component, e.g. .y, or its length()",
        )
    counted = rows[where]
    if len(counted):
        note(f"Values are {range_of(counted)}.")
    if from_range == "real":
        low, high = (float(counted.min()), float(counted.max())) if counted.size else (0.0, 1.0)
        if low == high and counted.size:
            warn(f"All values are {low:g}, so there is no range to map; they become the first end.")
    elif from_range == "signed":
        low, high = -1.0, 1.0
    elif low == high:
        raise ParameterError("high", "low and high are the same, so there is no range to map")
    share = (rows - low) / (high - low) if high != low else np.zeros_like(rows)
    outside = np.logical_or(share < 0.0, share > 1.0)[..., None]
    beyond = int(np.count_nonzero(outside[where].any(axis=tuple(range(1, outside.ndim)))))
    if beyond:
        note(
            f"{beyond:,} {PLURAL[kind]} lie beyond {low:g} to {high:g}"
            + (" and are kept at its ends." if clamp else ".")
        )
    if clamp or through != "line":
        inside = np.clip(share, 0.0, 1.0)
    else:
        inside = share
    return write_attribute(geo, kind, name, _mapped(inside, through, curve, gradient, to_low, to_high, name), where)


def _mapped(
    share: Floats, through: str, curve: Response, gradient: Gradient, low: float, high: float, name: str
) -> Attribute:
    if through == "gradient":
        return Attribute.of(gradient(share), "vec4")
    bent: AnyArray = curve(share.reshape(-1)).reshape(share.shape) if through == "response curve" else share
    made = low + bent * (high - low)
    if name == "color" and made.ndim == 2 and made.shape[1] == 3:
        made = np.concatenate([made, np.ones((len(made), 1))], axis=1)
    return Attribute.of(made)
