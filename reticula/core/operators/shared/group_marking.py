"""What all operators that make a group share: name, kind, how it combines with an old group, and the count that is
told.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.diagnostics import tell_of_members
from reticula.core.operators.declaration.parameters import Choice, GroupName, KindChoice, Parameter
from reticula.core.words import with_article

__all__ = ["ALL", "COMBINE", "MADE", "centers_of", "labels_of", "marked", "naming", "words_in"]

MADE = "Carries all; adds or replaces the group."
ALL: tuple[Kind, ...] = ("face", "point", "edge", "corner", "curve")


def naming(default: str, kinds: tuple[Kind, ...] = ALL, kind: Kind | None = None) -> tuple[Parameter, ...]:
    """Return the parameters that come first: the group's name and what it holds."""
    return (
        GroupName("name", default, "name of the group"),
        KindChoice.of(kinds, kind or kinds[0], "what the group holds"),
    )


COMBINE = Choice(
    "combine",
    "replace",
    "what to do if the group exists already",
    options={
        "replace": "the new members alone",
        "add": "old members stay",
        "keep both": "only old members that fit",
        "take away": "old members that fit leave",
    },
)
"""The parameter that comes last."""


def marked(geo: Geo, kind: str, name: str, members: Flags, combine: str = "replace", hint: str = "") -> Geo:
    """Return the geometry with the group; says how many it holds, and warns if that is none or all."""
    on = cast(Kind, kind)
    if combine != "replace":
        if not geo.has(on, name):
            warn(f"There was no {kind} group '{name}' to combine with.")
        else:
            old = geo.group(on, name)
            members = {"add": old | members, "keep both": old & members, "take away": old & ~members}[combine]
    tell_of_members(name, kind, int(members.sum()), len(members), hint)
    return geo.with_attribute(on, name, members, "flag")


def centers_of(geo: Geo, kind: str) -> Floats:
    """Return where elements are, m ``(N, 3)``: points and corners at their point, others in the middle of their
    points.
    """
    on = cast(Kind, kind)
    if on == "instance":
        return (
            np.ascontiguousarray(geo.attribute("instance", "transform")[:, :3, 3])
            if geo.topology.instance_count
            else np.zeros((0, 3))
        )
    if on == "whole":
        return geo.bounds.mean(axis=0, keepdims=True)
    return np.ascontiguousarray(Scope(geo, on).values(on, "position"))


def labels_of(geo: Geo, kind: str, name: str, parameter: str) -> tuple[AnyArray, str]:
    """Return the values ``(N,)`` and the type of a label: a whole number, a text or a flag of each element."""
    on = cast(Kind, kind)
    scope = Scope(geo, on)
    type = scope.attribute_type_of(on, name)
    if not type.is_single or type.blends:
        raise ParameterError(
            parameter, f"'{name}' is {with_article(type.name)}; a label is a whole number, a text or a flag"
        )
    return np.broadcast_to(scope.values(on, name), (geo.topology.count(on),)), type.name


def words_in(text: str) -> Sequence[str]:
    """Return the words of a list, separated by spaces or commas."""
    return text.replace(",", " ").split()
