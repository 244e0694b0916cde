"""Statistics: one number for many, kept on the whole, for formulas further down."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np

from reticula.core.arrays import AnyArray, Flags
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL
from reticula.core.language import Values
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, KindChoice, PerElement, Selection
from reticula.core.reports.attribute_writing import range_of
from reticula.core.words import with_article

__all__ = ["statistics"]

NUMBERS: Mapping[str, Callable[[AnyArray], AnyArray]] = {
    "low": lambda rows: rows.min(axis=0),
    "high": lambda rows: rows.max(axis=0),
    "mean": lambda rows: rows.mean(axis=0),
    "median": lambda rows: np.median(rows, axis=0),
    "deviation": lambda rows: rows.std(axis=0),
    "sum": lambda rows: rows.sum(axis=0),
}


@operator(
    "statistics",
    family="attributes",
    keywords=(
        "minimum",
        "maximum",
        "average",
        "mean",
        "median",
        "sum",
        "bounds",
        "range",
        "bounding box",
        "total",
        "count",
    ),
    carries="Carries all; adds attributes to the whole: the name with _low, _high, _mean, _median, "
    "_deviation, _sum and _count.",
    example="""
        rock = displace(geodesic_sphere(frequency=30), amount=0.2)
        known = statistics(rock, name="height", value="position.y")
        set_attribute(known, name="color", where="position.y > height_mean", value=CORAL)
    """,
    related=("measure", "remap", "number_value"),
    parameters=(
        AttributeName("name", "height", "what the attributes of the whole begin with", new=True),
        KindChoice.of(KINDS[:-1], "point", "what is counted"),
        PerElement("value", {"formula": "position.y"}, "number or vector of each element", on="kind", type="any"),
        Selection("where", "", "which elements count; empty means all", on="kind"),
    ),
)
def statistics(geo: Geo, *, name: str, kind: str, value: Values, where: Flags) -> Geo:
    """Work out bounds, mean and more of a value, and keep them where any formula further down can read them by name.

    After this, ``remap(position.y, height_low, height_high, 0, 1)`` follows the real range. Vectors are taken component
    by component; with ``position`` as value, low and high are the corners of the bounding box.
    """
    if not (value.info.is_numeric or value.info.dtype is np.bool_):
        raise ParameterError("value", f"this gives {with_article(value.type)}; statistics need numbers or vectors")
    rows: AnyArray = value.array[where].astype(np.float64)
    geo = geo.with_attribute("whole", f"{name}_count", np.array([len(rows)]), "integer")
    if not len(rows):
        warn(f"No {PLURAL[kind]} count, so all numbers are 0.")
        rows = np.zeros((1, *value.array.shape[1:]))
    else:
        note(
            f"{len(rows):,} {PLURAL[kind]}: {range_of(rows)}; mean "
            f"{', '.join(f'{part:.4g}' for part in np.atleast_1d(rows.mean(axis=0)))}."
        )
    for suffix, take in NUMBERS.items():
        geo = geo.with_attribute("whole", f"{name}_{suffix}", np.asarray(take(rows))[None])
    return geo
