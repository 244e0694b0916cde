"""Group by label: elements of some pieces, or with some values of a label."""

from __future__ import annotations

import re
from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Integer, Text
from reticula.core.operators.shared.group_marking import COMBINE, MADE, labels_of, marked, naming, words_in

__all__ = ["group_by_label"]

MOST_GROUPS = 200


@operator(
    "group_by_label",
    family="groups",
    keywords=("piece", "part", "island", "shell", "class", "value", "largest", "connected", "material"),
    carries=MADE + " With a group for each value, their names are the name, an underline and the value.",
    example="""
        loose = join(box(size=[0.4, 0.4, 0.4]), transform(geodesic_sphere(radius=0.35), move=[0.8, 0, 0]))
        named = measure(loose, what="piece", name="piece")
        largest = group_by_label(named, name="largest", label="piece", choose="largest")
        set_attribute(largest, kind="face", name="color", where="largest", value=CORAL)
    """,
    related=("measure", "split_by_group", "region_borders"),
    parameters=(
        *naming("chosen"),
        AttributeName("label", "piece", "whole number, text or flag to go by; 'piece' numbers the connected parts"),
        Choice(
            "choose",
            "largest",
            "which labels",
            options={
                "largest": "those with the most elements",
                "smallest": "those with the fewest",
                "values": "those in a list",
                "each": "a group for each value",
            },
        ),
        Integer("number", 1, "how many labels", soft=(1, 20), low=1),
        Text("values", "0", "values, with spaces between; 3-7 is a range", shown_when=("choose", "values")),
        COMBINE,
    ),
)
def group_by_label(
    geo: Geo, *, name: str, kind: str, label: str, choose: str, number: int, values: str, combine: str
) -> Geo:
    """Name the elements of some connected pieces, or with some values of any label."""
    on = cast(Kind, kind)
    labels, type = labels_of(geo, kind, label, "label")
    if choose == "values":
        members = _listed(labels, values, type)
        return marked(geo, kind, name, members, combine)
    there, inverse, counts = np.unique(labels, return_inverse=True, return_counts=True)
    if choose == "each":
        if len(there) > MOST_GROUPS:
            raise ParameterError("choose", f"'{label}' has {len(there):,} values; {MOST_GROUPS} groups are the most")
        names = [f"{name}_" + re.sub(r"\W", "_", str(value)) for value in there.tolist()]
        for rank, made in enumerate(names):
            geo = geo.with_attribute(on, made, inverse == rank, "flag")
        note(f"Made {len(names)} groups: {', '.join(names[:4])}{' …' if len(names) > 4 else ''}.")
        return geo
    order = np.argsort(counts if choose == "smallest" else -counts, kind="stable")
    if number > len(there):
        warn(f"There are only {len(there):,} different values of '{label}'.")
    return marked(geo, kind, name, np.isin(inverse.reshape(-1), order[:number]), combine)


def _listed(labels: AnyArray, text: str, type: str) -> Flags:
    members = np.zeros(len(labels), bool)
    missing = []
    for word in words_in(text):
        span = re.fullmatch(r"(-?\d+)-(-?\d+)", word)
        if type == "text":
            fits = labels == word
        elif type == "flag":
            fits = labels == (word.lower() in ("1", "true", "yes"))
        elif span:
            fits = (labels >= int(span[1])) & (labels <= int(span[2]))
        elif re.fullmatch(r"-?\d+", word):
            fits = labels == int(word)
        else:
            raise ParameterError("values", f"'{word}' is not a whole number or a range such as 3-7")
        members |= fits
        missing += [] if fits.any() else [word]
    if missing:
        warn(f"No element has {', '.join(missing)}.")
    return members
