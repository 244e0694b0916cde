"""Random values per element, piece or label."""

from __future__ import annotations

import hashlib
from typing import cast

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, Floats, UInts
from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.measure.components import label_names
from reticula.core.geometry.mesh.identity import names_of_numbers, unit_random
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Integer,
    KindChoice,
    Number,
    PerElement,
    Selection,
    Text,
)
from reticula.core.operators.shared.group_marking import labels_of, words_in
from reticula.core.reports.attribute_writing import range_of, write_attribute
from reticula.core.srgb import to_linear

__all__ = ["random_values"]


@operator(
    "random_values",
    family="attributes",
    keywords=("noise", "vary", "seed", "chance", "dice", "jitter", "uniform", "normal", "gauss", "weights"),
    sections={
        "spread": ("mean", "deviation", "choices", "weights"),
        "repeats": ("per", "seed"),
    },
    carries="Carries all; adds or replaces the attribute.",
    example="""
        tile = grid(cells=[10, 10])
        varied = random_values(tile, name="lift", kind="face", low=0.02, high=0.25)
        extrude(varied, together=False, distance="lift", inset=0.01)
    """,
    related=("noise_values", "random_value", "group_at_random"),
    parameters=(
        AttributeName("name", "variation", "attribute to make or change", new=True),
        KindChoice.of(KINDS[:-1], "point", "what has the attribute"),
        Choice(
            "values",
            "uniform",
            "what kind of values",
            options={
                "uniform": "numbers, all equally likely between low and high",
                "normal": "numbers around a mean (bell curve)",
                "integer": "whole numbers from low to high, both included",
                "choice": "one of some values, with weights",
                "unit vector": "directions, all equally likely",
                "color": "bright colours of any hue",
            },
        ),
        PerElement("low", 0.0, "lowest number", on="kind", soft=(-1, 1), shown_when=("values", ["uniform", "integer"])),
        PerElement(
            "high", 1.0, "highest number", on="kind", soft=(-1, 1), shown_when=("values", ["uniform", "integer"])
        ),
        Number("mean", 0.0, "middle of the bell curve", soft=(-1, 1), shown_when=("values", "normal")),
        Number(
            "deviation",
            1.0,
            "standard deviation: two thirds lie closer to the mean",
            soft=(0, 2),
            low=0.0,
            shown_when=("values", "normal"),
        ),
        Text(
            "choices",
            "small medium large",
            "values to choose from, with spaces between",
            shown_when=("values", "choice"),
        ),
        Text("weights", "", "how likely each is, e.g. 5 3 1; empty means all alike", shown_when=("values", "choice")),
        AttributeName(
            "per",
            "",
            "label whose elements share one value, e.g. piece, also when pieces are counted anew; empty: each its own",
            optional=True,
        ),
        Integer("seed", 0, "another number gives other values", soft=(0, 100)),
        Selection("where", "", "which elements receive a value; empty means all", on="kind"),
    ),
)
def random_values(
    geo: Geo,
    *,
    name: str,
    kind: str,
    values: str,
    low: Floats,
    high: Floats,
    mean: float,
    deviation: float,
    choices: str,
    weights: str,
    per: str,
    seed: int,
    where: Flags,
) -> Geo:
    """Give every element a random value that stays when other elements are added or removed."""
    names = _names(geo, cast(Kind, kind), per)

    def draw(number: int) -> Floats:
        return unit_random(names, seed * 4 + number)

    made: AnyArray
    if values == "uniform":
        made = low + (high - low) * draw(0)
    elif values == "integer":
        made = np.floor(low + (np.floor(high) - low + 1.0) * draw(0)).astype(np.int64)
    elif values == "normal":
        made = mean + deviation * scipy.special.ndtri(np.clip(draw(0), 2.0**-54, 1.0 - 2.0**-53))
    elif values == "unit vector":
        height, turn = 2.0 * draw(0) - 1.0, 2.0 * np.pi * draw(1)
        across = np.sqrt(1.0 - height * height)
        made = np.stack([across * np.cos(turn), height, across * np.sin(turn)], axis=1)
    elif values == "color":
        made = _colors(draw(0))
    else:
        made = _chosen(choices, weights, draw(0))
    if made.dtype.kind in "fi" and values not in ("unit vector", "color"):
        note(f"Values are {range_of(made)}.")
    return write_attribute(geo, kind, name, Attribute.of(made), where)


def _names(geo: Geo, kind: Kind, per: str) -> UInts:
    if not per:
        return geo.identity(kind)
    labels, type = labels_of(geo, kind, per, "per")
    if type == "text":
        there, inverse = np.unique(labels, return_inverse=True)
        codes = np.array([_code(word) for word in there.tolist()], np.int64)
        return names_of_numbers(codes[inverse.reshape(-1)] if len(codes) else np.zeros(0, np.int64))
    stable = Scope(geo, kind).stable_label(kind, per)
    if stable != per:
        return names_of_numbers(labels_of(geo, kind, stable, "per")[0].astype(np.int64))
    if type == "flag":
        return names_of_numbers(labels.astype(np.int64))
    return names_of_numbers(label_names(labels, geo.identity(kind)))


def _code(word: str) -> int:
    return int.from_bytes(hashlib.blake2b(word.encode(), digest_size=8).digest(), "little", signed=True)


def _chosen(choices: str, weights: str, lot: Floats) -> AnyArray:
    words = list(words_in(choices))
    if not words:
        raise ParameterError("choices", "give at least one value")
    try:
        shares = [float(word) for word in words_in(weights)] or [1.0] * len(words)
    except ValueError:
        raise ParameterError("weights", f"'{weights}' holds something that is not a number") from None
    if len(shares) != len(words) or min(shares) < 0.0 or not 0.0 < sum(shares) < np.inf:
        raise ParameterError(
            "weights", f"give {len(words)} numbers, one for each of {choices}, not all 0 and none below 0"
        )
    edges = np.cumsum(shares) / sum(shares)
    index = np.minimum(np.searchsorted(edges, lot, side="right"), len(words) - 1)
    for convert in (int, float):
        try:
            return np.array([convert(word) for word in words])[index]
        except (ValueError, OverflowError):
            continue
    return np.array(words)[index]


def _colors(lot: Floats) -> Floats:
    """Colours of one brightness and any hue: the HSV hexcone of Smith, "Color gamut transform pairs", SIGGRAPH 1978."""
    hue = lot[:, None] * 6.0
    rgb = np.clip(np.abs((hue + np.array([0.0, 4.0, 2.0])) % 6.0 - 3.0) - 1.0, 0.0, 1.0)
    srgb = 0.92 * (1.0 - 0.6 * (1.0 - rgb))
    return np.concatenate([to_linear(srgb), np.ones((len(lot), 1))], axis=1)
