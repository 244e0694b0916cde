"""Noise, cells and random numbers."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.identity import names_of_numbers, unit_random
from reticula.core.language import noise
from reticula.core.language.functions.table import FUNCTIONS, Emitter, Function, Resolution, Values, exactly, function
from reticula.core.language.types import Type

__all__ = ["NAMES", "RANDOM"]

PERLIN = "Perlin, SIGGRAPH 2002"
WORLEY = "Worley, SIGGRAPH 1996"


def _in_space(point: AnyArray) -> AnyArray:
    columns = point if point.ndim == 2 else point[:, None]
    return np.ascontiguousarray(np.pad(columns, ((0, 0), (0, 3 - columns.shape[1]))))


def _noise(point: AnyArray, octaves: AnyArray | None = None) -> AnyArray:
    space = _in_space(point)
    steps = np.ones(1, np.int64) if octaves is None else octaves.reshape(-1)
    rows = np.broadcast_shapes(space[:, 0].shape, steps.shape)[0]
    return noise.gradient_noise(
        np.ascontiguousarray(np.broadcast_to(space, (rows, 3))),
        np.ascontiguousarray(np.broadcast_to(np.clip(steps, 1, 16), (rows,))),
    )


def _noise3(point: AnyArray, octaves: AnyArray | None = None) -> AnyArray:
    space = _in_space(point)
    steps = None if octaves is None else octaves.reshape(-1)
    return np.stack([_noise(space + shift, steps) for shift in noise.SHIFTS], axis=1)


def _random(identity: AnyArray, seed: AnyArray) -> AnyArray:
    names = identity if identity.dtype == np.uint64 else names_of_numbers(identity)
    rows = np.broadcast_shapes(names.shape, seed.shape)
    return unit_random(np.broadcast_to(names, rows), np.broadcast_to(seed, rows))


def _space_code(values: Values) -> list[str]:
    return (list(values[0]) + ["0.0", "0.0"])[:3]


def _noise_code(emit: Emitter, values: Values) -> list[str]:
    octaves = values[1][0] if len(values) > 1 else "1"
    return [emit.let(f"octaves_at({', '.join(_space_code(values))}, {octaves})")]


def _noise3_code(emit: Emitter, values: Values) -> list[str]:
    octaves = values[1][0] if len(values) > 1 else "1"
    place = _space_code(values)
    return [
        emit.let(f"octaves_at({', '.join(f'{p} + {s!r}' for p, s in zip(place, shift, strict=True))}, {octaves})")
        for shift in noise.SHIFTS.tolist()
    ]


def _cells_code(emit: Emitter, values: Values) -> list[str]:
    return [emit.let(f"cell_distance({', '.join(_space_code(values))})")]


def _cell_number_code(emit: Emitter, values: Values) -> list[str]:
    return [emit.let(f"cell_label({', '.join(_space_code(values))})")]


def _random_code(emit: Emitter, values: Values) -> list[str]:
    return [emit.let(f"random_of_name({values[0][0]}, {values[1][0]})")]


def _spaces(result: str, *, octaves: bool) -> Callable[[tuple[Type, ...]], Resolution]:
    forms = [((t,), result) for t in ("vec3", "vec2", "number")]
    more = [((*types, "integer"), made) for types, made in forms] if octaves else []
    return exactly(*forms, *more)


_before = set(FUNCTIONS)
function(
    "noise(p, octaves)",
    "smooth noise in -1..1 at a place; octaves (1 if left out) adds finer detail",
    _spaces("number", octaves=True),
    _noise,
    _noise_code,
    "abs(noise((1, 2, 3))) < 1",
    PERLIN,
)
function(
    "noise3(p, octaves)",
    "three independent noises in -1..1 as a vector, e.g. to shake positions",
    _spaces("vec3", octaves=True),
    _noise3,
    _noise3_code,
    "length(noise3((0.3, 0.4, 0.5))) < 2",
    PERLIN,
)
function(
    "cell_number(p)",
    "a random number in 0..1 that is the same all over one of the cells of cells(p)",
    _spaces("number", octaves=False),
    lambda p: noise.cell_labels(_in_space(p)),
    _cell_number_code,
    "cell_number((0.1, 0.2, 0.3)) <= 1",
    WORLEY,
)
function(
    "cells(p)",
    "distance to the nearest of one random centre per unit cell",
    _spaces("number", octaves=False),
    lambda p: noise.cellular(_in_space(p)),
    _cells_code,
    "cells((0.1, 0.2, 0.3)) < 2",
    WORLEY,
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
RANDOM = Function(
    "random",
    "random(seed, key)",
    "a number in 0..1, the same for an element whatever is added around it; with a key, e.g. piece, "
    "the same for all with that key (by piece_name, cell_name …, where there is one, so that pieces keep theirs)",
    lambda types: None,
    _random,
    _random_code,
    example="random(1, 2) == random(1, 2)",
)
