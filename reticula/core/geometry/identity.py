"""Stable identities: a 64-bit name per element that survives edits elsewhere in the mesh.

A generated element is named by its number. An element made from another one by an operator keeps that one's name if
it is its first child, else its name is a hash of the source's name and its number among the source's children.
Random values hang on these names, so that adding elements does not reshuffle those that were there.
"""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints, UInts
from reticula.core.compiled import inline, kernel

__all__ = [
    "child_of",
    "children",
    "fresh",
    "hash_pairs",
    "hashed_numbers",
    "mix64",
    "number_name",
    "random_of",
    "unit_random",
]

GOLDEN = np.uint64(0x9E3779B97F4A7C15)
SEED = np.uint64(0xD6E8FEB86659FD93)


@inline
def mix64(value: np.uint64) -> np.uint64:
    """Finaliser of SplitMix64. Steele, Lea & Flood, "Fast splittable pseudorandom number generators", OOPSLA 2014."""
    value = (value ^ (value >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    value = (value ^ (value >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return value ^ (value >> np.uint64(31))


@kernel
def fresh(count: int, salt: int) -> UInts:
    """Return identities of ``count`` generated elements; ``salt`` tells kinds apart."""
    out = np.empty(count, np.uint64)
    base = mix64(np.uint64(salt) * GOLDEN)
    for i in range(count):
        out[i] = mix64(base + np.uint64(i + 1) * GOLDEN)
    return out


@kernel
def children(parents: UInts, index: Indices, salt: int) -> UInts:
    """Return identities of new elements made from ``index (N,)`` into ``parents``; -1 means made from nothing."""
    number = np.zeros(len(parents), np.int64)
    out = np.empty(len(index), np.uint64)
    orphans = 0
    for i in range(len(index)):
        source = index[i]
        if source < 0:
            orphans += 1
            out[i] = mix64(mix64(np.uint64(salt) * GOLDEN) + np.uint64(orphans) * GOLDEN)
        elif number[source] == 0:
            out[i] = parents[source]
            number[source] = 1
        else:
            out[i] = mix64(parents[source] + np.uint64(number[source]) * GOLDEN)
            number[source] += 1
    return out


@kernel
def child_of(parents: UInts, name: np.uint64, most: int) -> int:
    """Return which of ``parents (N,)`` a name is a child of, among their first ``most`` children; -1 for none."""
    for number in range(1, most):
        for i in range(len(parents)):
            if mix64(parents[i] + np.uint64(number) * GOLDEN) == name:
                return i
    return -1


@kernel
def hash_pairs(first: UInts, second: UInts) -> UInts:
    """Hash two identities into one, whatever their order."""
    out = np.empty(len(first), np.uint64)
    for i in range(len(first)):
        low, high = min(first[i], second[i]), max(first[i], second[i])
        out[i] = mix64(low + mix64(high + GOLDEN))
    return out


@inline
def number_name(number: int) -> np.uint64:
    """The name of one whole number."""
    return mix64(np.uint64(number) * GOLDEN + SEED)


@inline
def random_of(name: np.uint64, seed: int) -> float:
    """A number in [0, 1) of one name and seed."""
    bits = mix64(name ^ mix64(np.uint64(seed) + SEED))
    return np.float64(bits >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@kernel
def hashed_numbers(numbers: Ints) -> UInts:
    """Return a name for each whole number ``(N,)``, the same for equal ones."""
    out = np.empty(len(numbers), np.uint64)
    for i in range(len(numbers)):
        out[i] = number_name(numbers[i])
    return out


@kernel
def _unit_random(identity: UInts, seed: AnyArray) -> Floats:
    out = np.empty(len(identity), np.float64)
    for i in range(len(identity)):
        out[i] = random_of(identity[i], seed[i])
    return out


def unit_random(identity: UInts, seed: AnyArray | int) -> Floats:
    """Return numbers in [0, 1), one per identity ``(N,)`` and integer seed (one, or ``(N,)``)."""
    return _unit_random(identity, np.ascontiguousarray(np.broadcast_to(np.asarray(seed, np.int64), identity.shape)))
