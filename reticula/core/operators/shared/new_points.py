"""What points made by a geometry, but of none of its elements, take along from it."""

from __future__ import annotations

from collections.abc import Sequence

from reticula.core.diagnostics import note
from reticula.core.geometry import KINDS, Geo, Kind

__all__ = ["beside_whole", "tell_left_behind"]


def beside_whole(made: Geo, source: Geo) -> Geo:
    """Return new points with the values of the whole that they were made from, its place in the world among them."""
    for name, found in source.attributes["whole"].items():
        made = made.with_attribute("whole", name, found)
    return made


def tell_left_behind(source: Geo, why: str, kinds: Sequence[Kind] = KINDS) -> None:
    """Say which attributes of some kinds of elements new points do not carry, and why."""
    left = [name for kind in kinds for name in source.attributes[kind] if kind != "whole" and name != "position"]
    if left:
        note(f"Left behind, since {why}: {', '.join(dict.fromkeys(left))}.")
