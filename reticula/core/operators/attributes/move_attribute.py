"""Move attribute: from one element kind to another."""

from __future__ import annotations

from typing import cast

from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.incidence import convert_attribute, incident
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice, Names, Toggle
from reticula.core.operators.shared.name_patterns import matching

__all__ = ["move_attribute"]


@operator(
    "move_attribute",
    family="attributes",
    keywords=("promote", "convert", "average", "points to faces", "faces to points", "corner", "whole", "kind"),
    carries="Carries all; adds the attribute to the new kind, and takes it from the old one if that is asked for.",
    example="""
        tile = grid(cells=[12, 12])
        by_face = random_values(tile, name="height", kind="face", high=0.2)
        by_point = move_attribute(by_face, attributes="height", kind="face", to="point", how="mean")
        displace(by_point, value="height", amount=1, along="direction")
    """,
    related=("transfer_attribute", "convert_group", "blur_values"),
    parameters=(
        Names("attributes", "*", "names, with spaces between; * stands for any letters", of="geo"),
        KindChoice.of(KINDS, "face", "where they are", name="kind"),
        KindChoice.of(KINDS, "point", "where they shall be", name="to"),
        Choice(
            "how",
            "mean",
            "which value, where several belong to an element",
            options={
                "mean": "their mean",
                "sum": "their sum",
                "min": "the smallest",
                "max": "the largest",
                "first": "the first one",
                "mode": "the most frequent one",
                "any": "yes if any is",
                "all": "yes if all are",
                "list": "all of them, as a list",
            },
        ),
        AttributeName("name", "", "new name, for one attribute; empty keeps it", new=True, optional=True),
        Toggle("keep", False, "leave the old attribute where it was"),
    ),
)
def move_attribute(geo: Geo, *, attributes: str, kind: str, to: str, how: str, name: str, keep: bool) -> Geo:
    """Move values between element kinds: from faces to points, from corners to edges, to the whole.

    With 'mean', flags and texts, which have none, take their most frequent value, and lists the first one.
    """
    old, new = cast(Kind, kind), cast(Kind, to)
    names = matching(
        "attributes", attributes, [entry for entry in geo.attributes[old] if entry != "position"], f"{kind}s"
    )
    if name and len(names) > 1:
        raise ParameterError("name", f"one name cannot stand for {len(names)} attributes; leave it empty, or move one")
    if new in ("point", "edge", "face", "curve", "corner") and not geo.topology.count(new):
        warn(f"There are no {to}s here, so nothing is left of the values.")
    start = incident(geo, old, new)[0]
    empty = int((start[1:] == start[:-1]).sum())
    for entry in names:
        found = geo.find(old, entry)
        way = (
            how
            if how != "mean"
            else "first"
            if found.start is not None
            else "mode"
            if not found.info.is_numeric and not found.info.blends
            else how
        )
        try:
            made = convert_attribute(geo, old, new, found, way)
        except GeometryError as error:
            raise ParameterError("how", f"'{entry}': {error}") from None
        geo = geo.with_attribute(new, name or entry, made)
        if not keep and old != new and entry != "position":
            geo = geo.without_attribute(old, entry)
    if empty and names:
        note(f"{empty:,} {to}s have no {kind} and hold the default.")
    return geo
