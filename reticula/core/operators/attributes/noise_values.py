"""Noise values: smooth or cellular noise over space as an attribute."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.identity import fresh_names, unit_random
from reticula.core.language import noise as noises
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Handle,
    Integer,
    KindChoice,
    Number,
    PerElement,
    Selection,
    Toggle,
    Vector,
)
from reticula.core.reports.attribute_writing import range_of, write_attribute

__all__ = ["noise_values"]

RANGES = {"gradient": (-1.0, 1.0), "vector": (-1.0, 1.0), "cell distance": (0.0, 3.0**0.5), "cell label": (0.0, 1.0)}


@operator(
    "noise_values",
    family="attributes",
    keywords=("perlin", "fractal", "cellular", "worley", "turbulence", "octaves", "bump", "roughness"),
    sections={
        "noise": ("octaves", "offset", "seed", "place"),
        "range": ("rescale", "low", "high"),
    },
    carries="Carries all; adds or replaces the attribute.",
    example="""
        ball = geodesic_sphere(frequency=40)
        rough = noise_values(ball, name="rough", frequency=3, octaves=5)
        displace(rough, value="rough", amount=0.12)
    """,
    related=("random_values", "noise_value", "displace"),
    parameters=(
        AttributeName("name", "rough", "attribute to make or change", new=True),
        KindChoice.of(("point", "face", "corner", "edge", "curve"), "point", "what has the attribute"),
        Choice(
            "noise",
            "gradient",
            "which noise, and its full range",
            options={
                "gradient": "smooth hills and hollows, -1 to 1",
                "vector": "three independent ones, each -1 to 1",
                "cell distance": "distance to scattered centres in cells, 0 to 1.73, mostly below 0.8",
                "cell label": "a random number per cell, 0 to 1",
            },
        ),
        Number("frequency", 4.0, "how many waves or cells in a metre", unit="1/m", soft=(0, 20), low=0.0),
        Integer(
            "octaves",
            3,
            "layers, each twice as fine and half as strong",
            soft=(1, 8),
            low=1,
            high=16,
            shown_when=("noise", ["gradient", "vector"]),
        ),
        Vector("offset", [0.0, 0.0, 0.0], "moves the noise", unit="m", soft=(-2, 2), handle=Handle("place")),
        Integer("seed", 0, "another number gives another noise", soft=(0, 100)),
        Toggle("rescale", False, "map the full range to another one"),
        Number("low", -1.0, "what the lower end of the full range becomes", soft=(-1, 1), shown_when=("rescale", True)),
        Number("high", 1.0, "what the upper end becomes", soft=(-1, 1), shown_when=("rescale", True)),
        PerElement("place", {"formula": "position"}, "where each element looks at the noise", on="kind", type="vec3"),
        Selection("where", "", "which elements receive a value; empty means all", on="kind"),
    ),
)
def noise_values(
    geo: Geo,
    *,
    name: str,
    kind: str,
    noise: str,
    frequency: float,
    octaves: int,
    offset: list[float],
    seed: int,
    rescale: bool,
    low: float,
    high: float,
    place: Floats,
    where: Flags,
) -> Geo:
    """Give every element the value of a noise at its place."""
    made = _noise(noise, (place - np.array(offset)) * frequency + _shift(seed), octaves)
    if rescale:
        bottom, top = RANGES[noise]
        made = low + (made - bottom) / (top - bottom) * (high - low)
    note(f"Values are {range_of(made)}.")
    return write_attribute(geo, kind, name, made, where)


def _shift(seed: int) -> Floats:
    """A place far from others for each seed; the noise itself for seed 0."""
    if seed == 0:
        return np.zeros(3)
    return unit_random(fresh_names(3, seed), seed) * 20_000.0 - 10_000.0


def _noise(which: str, places: AnyArray, octaves: int) -> Floats:
    rows = np.ascontiguousarray(places)
    steps = np.full(len(rows), octaves, np.int64)
    if which == "gradient":
        return noises.gradient_noise(rows, steps)
    if which == "vector":
        return np.stack([noises.gradient_noise(rows + shift, steps) for shift in noises.SHIFTS], axis=1)
    return noises.cellular(rows) if which == "cell distance" else noises.cell_labels(rows)
