"""Transfer attribute: values from another geometry."""

from __future__ import annotations

from collections.abc import Mapping
from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.attribute_types import BLENDED
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    Choice,
    KindChoice,
    Names,
    Number,
    Selection,
    Space,
    Text,
)
from reticula.core.operators.shared.counterparts import METHODS, Lookup, look_up
from reticula.core.operators.shared.name_patterns import matching
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve
from reticula.core.operators.shared.reach import limited_reach
from reticula.core.words import with_article

__all__ = ["transfer_attribute"]

FROM: tuple[Kind, ...] = ("point", "corner", "face", "edge", "curve", "instance")
"""Kinds in the order in which a name is looked for on the source."""


@operator(
    "transfer_attribute",
    family="attributes",
    inputs=(Input("geo", "geometry that receives the values"), Input("source", "geometry that has the values")),
    keywords=("copy", "carry", "scan", "colour", "color", "nearest", "closest", "bake", "sample", "uv", "index"),
    sections={
        "reach": ("limit_reach", "reach", "feather", "falloff", "elsewhere"),
        "names": ("rename",),
        "space": ("space",),
    },
    carries=(
        "Carries all of the first input; adds or replaces the named attributes. Numbers, vectors and colours are "
        "interpolated over the triangle; flags, integers and text come from its nearest corner."
    ),
    example="""
        scan = noise_values(geodesic_sphere(frequency=30), name="rough", frequency=3)
        coarse = displace(geodesic_sphere(radius=0.52, frequency=14), amount=0.02)
        carried = transfer_attribute(coarse, scan, attributes="rough")
        remap(carried, value="rough", name="color", through="gradient")
    """,
    related=("raycast", "nearest_value", "move_attribute"),
    parameters=(
        Names("attributes", "*", "names of the source's attributes, with spaces between; * stands for any letters"),
        Choice(
            "source_kind",
            "automatic",
            "kind that has them on the source",
            options={
                "automatic": "the first of points, corners, faces, edges, curves and instances that has the name",
                **{kind: f"only {PLURAL[kind]}" for kind in FROM},
                "whole": "the whole, to every element",
            },
        ),
        KindChoice.of(KINDS[:-1], "point", "what receives the values", name="onto"),
        Selection("where", "", "which elements receive values; empty means all", on="onto"),
        Choice("by", "surface", "how a source is found for each element", options=METHODS),
        *limited_reach(
            "0.06", "full strength up to this distance", switch="ignore what is farther away than the reach", most=2
        ),
        Number(
            "feather",
            0.0,
            "beyond the reach, the way along which the strength falls to nothing",
            unit="m",
            soft=(0, 2),
            low=0.0,
            shown_when=("limit_reach", True),
        ),
        ResponseCurve(
            "falloff",
            [[0.0, 1.0], [1.0, 0.0]],
            "strength (up) along the feather",
            soft=(0.0, 1.0),
            shown_when=("limit_reach", True),
        ),
        Choice(
            "elsewhere",
            "keep",
            "what stays where nothing is near",
            options={
                "keep": "the old value; the default, if there is none",
                "default": "the source's default",
            },
        ),
        Text("rename", "*", "name on the receiver; * stands for the old name, e.g. scan_*", most=64),
        Space.choice(),
    ),
)
def transfer_attribute(
    geo: Geo,
    source: Geo,
    *,
    attributes: str,
    source_kind: str,
    onto: str,
    where: Flags,
    by: str,
    limit_reach: bool,
    reach: float,
    feather: float,
    falloff: Response,
    elsewhere: str,
    rename: str,
    space: str,
) -> Geo:
    """Give each element the values found at its counterpart on another geometry.

    Elements that find nothing within the reach, or are not marked, keep the value they had; where the attribute is
    new they get its default, and that is said. The receiver need not have the attribute.
    """
    kind = cast(Kind, onto)
    names = _names(source, attributes, source_kind)
    chosen = np.flatnonzero(where)
    looked = look_up(geo, source, kind, chosen, by, reach + feather if limit_reach else np.inf)
    strength = _strength(looked.distance, looked.found, reach if limit_reach else np.inf, feather, falloff)
    _tell(looked, kind, len(chosen), reach + feather if limit_reach else np.inf)
    for name, from_kind in names.items():
        made = _renamed(name, rename)
        brought = looked.attribute(from_kind, name)
        result = _merged(geo, kind, made, brought, chosen, strength, keep=elsewhere == "keep")
        _warn_of_default(made, source.find(from_kind, name), result, strength, kind)
        geo = geo.with_attribute(kind, made, result)
    return geo


def _names(source: Geo, patterns: str, source_kind: str) -> Mapping[str, Kind]:
    """Return the source attributes that fit, each with the kind it is read from."""
    kinds: tuple[Kind, ...] = FROM if source_kind == "automatic" else (cast(Kind, source_kind),)
    there: dict[str, Kind] = {}
    for kind in kinds:
        for name in source.attributes[kind]:
            if name != "position" and (kind, name) not in (("instance", "shape"), ("instance", "transform")):
                there.setdefault(name, kind)
    what = "source" if source_kind == "automatic" else f"source's {PLURAL[source_kind]}"
    return {name: there[name] for name in matching("attributes", patterns, there, what)}


def _renamed(name: str, pattern: str) -> str:
    made = (pattern.strip() or "*").replace("*", name)
    if not made.isidentifier():
        raise ParameterError("rename", f"'{made}' is not a name: use letters, digits and _, not starting with a digit")
    if made == "position":
        raise ParameterError("rename", "'position' would move the points; use set attribute for that")
    return made


def _strength(distance: Floats, found: Flags, reach: float, feather: float, falloff: Response) -> Floats:
    beyond = np.maximum(distance - reach, 0.0) if np.isfinite(reach) else np.zeros_like(distance)
    if feather > 0.0:
        fade = np.where(beyond > 0.0, np.clip(falloff(np.minimum(beyond / feather, 1.0)), 0.0, 1.0), 1.0)
    else:
        fade = np.where(beyond > 0.0, 0.0, 1.0)
    return np.where(found, fade, 0.0)


def _tell(looked: Lookup, kind: Kind, asked: int, reach: float) -> None:
    found = int(looked.found.sum())
    within = f" within {reach:g} m" if np.isfinite(reach) else ""
    if asked and not found:
        warn(f"None of {asked:,} {PLURAL[kind]} found anything{within}; check where both stand.")
    elif found < asked:
        note(f"{asked - found:,} of {asked:,} {PLURAL[kind]} found nothing{within} and were left as they were.")
    elif asked and looked.measured:
        note(f"Closest places are {looked.distance.min():.3g} to {looked.distance.max():.3g} m away.")


def _merged(
    geo: Geo, kind: Kind, name: str, brought: Attribute, chosen: np.ndarray, strength: Floats, *, keep: bool
) -> Attribute:
    """Put brought values over the old ones, by strength: blended where the type allows it, else from a half on."""
    count = geo.topology.count(kind)
    if len(chosen) == count and (strength == 1.0).all():
        return brought
    old = geo.find(kind, name) if geo.has(kind, name) else None
    if old is not None and old.type != brought.type:
        warn(f"'{name}' was {with_article(old.type)} and is {with_article(brought.type)} now.")
        old = None
    base = old or Attribute.filled(brought.type, count, brought.default, default=brought.default)
    if old is None:
        left = count - int((strength > 0).sum())
        note(f"'{name}' is new: {left:,} {PLURAL[kind]} without a value hold {np.asarray(base.fill).tolist()}.")
    if not keep:
        cleared = Attribute.filled(brought.type, count, brought.default, default=brought.default)
        pick = np.arange(count)
        pick[chosen[strength < 1.0]] += count
        base = Attribute.concatenate([base, cleared]).take(pick)
    target = np.arange(count)
    taken = strength >= 0.5
    target[chosen[taken]] = count + np.flatnonzero(taken)
    merged = Attribute.concatenate([base, brought]).take(target)
    partly = (strength > 0.0) & (strength < 1.0)
    if brought.type not in BLENDED or not partly.any():
        return merged
    values = np.array(merged.values)
    share = strength[partly].reshape(-1, *([1] * (values.ndim - 1)))
    values[chosen[partly]] = base.values[chosen[partly]] * (1.0 - share) + brought.values[partly] * share
    return Attribute(merged.type, values, None, brought.default)


def _warn_of_default(name: str, found: Attribute, result: Attribute, strength: Floats, kind: Kind) -> None:
    """Warn of a mark that says nothing: the source's default is the mark itself, so what found nothing is marked
    too.
    """
    if (
        result.type == "flag"
        and bool(found.fill)
        and (strength < 0.5).any()
        and len(result) > 1
        and result.values.all()
    ):
        warn(
            f"'{name}' is yes by default on the source, so all {PLURAL[kind]} are marked, also those "
            "that found nothing."
        )
    elif result.type == "flag" and len(result) > 1 and result.values.all():
        warn(f"'{name}' is yes on all {len(result):,} {PLURAL[kind]}.")
