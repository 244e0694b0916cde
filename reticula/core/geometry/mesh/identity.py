"""Stable identities: a 64-bit name per element that survives edits elsewhere in the mesh.

A generated element is named by its number and by what generated it. An element made from another one by an operator
keeps that one's name if it is its first child, else its name is a hash of the source's name and its number among the
source's children.
Random values hang on these names, so that adding elements does not reshuffle those that were there. Where equal names
meet in one geometry, the first keeps its own.
"""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints, UInts
from reticula.core.jit import inline, kernel

__all__ = [
    "child_names",
    "child_of",
    "descendants",
    "distinct_names",
    "fresh_names",
    "hash_in_order",
    "hash_pairs",
    "mix64",
    "name_of_number",
    "names_of_numbers",
    "random_of_name",
    "twin_of",
    "unit_random",
]

GOLDEN = np.uint64(0x9E3779B97F4A7C15)
SEED = np.uint64(0xD6E8FEB86659FD93)
TWIN = np.uint64(0xA0761D6478BD642F)
PAIR = np.uint64(0xE7037ED1A0B428DB)


@inline
def mix64(value: np.uint64) -> np.uint64:
    """Finaliser of SplitMix64. Steele, Lea & Flood, "Fast splittable pseudorandom number generators", OOPSLA 2014."""
    value = (value ^ (value >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    value = (value ^ (value >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return value ^ (value >> np.uint64(31))


@kernel
def fresh_names(count: int, salt: int) -> UInts:
    """Return identities of ``count`` generated elements; ``salt`` tells kinds apart."""
    out = np.empty(count, np.uint64)
    base = mix64(np.uint64(salt) * GOLDEN)
    for i in range(count):
        out[i] = mix64(base + np.uint64(i + 1) * GOLDEN)
    return out


@kernel
def _name_table(names: UInts) -> UInts:
    """Return an open-addressing table of names: Knuth, The Art of Computer Programming 3, section 6.4, algorithm L."""
    size = 16
    while size < 2 * len(names) + 2:
        size *= 2
    table = np.zeros(size, np.uint64)
    for name in names:
        at = name & np.uint64(size - 1)
        while table[at] != np.uint64(0) and table[at] != name:
            at = (at + np.uint64(1)) & np.uint64(size - 1)
        table[at] = name
    return table


@inline
def _is_in(table: UInts, name: np.uint64) -> bool:
    last = np.uint64(len(table) - 1)
    at = name & last
    while table[at] != np.uint64(0):
        if table[at] == name:
            return True
        at = (at + np.uint64(1)) & last
    return False


@inline
def _child_name(parent: np.uint64, number: int, table: UInts) -> np.uint64:
    """The name of the ``number``-th further child: the first of its chain of hashes that nothing in ``table`` has.

    An element that was split before has children under the first hashes; those of its next splitting take the next
    ones.
    """
    name = mix64(parent + np.uint64(number) * GOLDEN)
    while _is_in(table, name):
        name = mix64(name + SEED)
    return name


@kernel
def child_names(parents: UInts, index: Indices, salt: int) -> UInts:
    """Return identities of new elements made from ``index (N,)`` into ``parents``; -1 means made from nothing.

    If no two of ``parents`` are alike, no two of the result are.
    """
    number = np.zeros(len(parents), np.int64)
    out = np.empty(len(index), np.uint64)
    table = np.zeros(0, np.uint64)
    orphans = 0
    for i in range(len(index)):
        source = index[i]
        if source >= 0 and number[source] == 0:
            out[i] = parents[source]
            number[source] = 1
            continue
        if not len(table):
            table = _name_table(parents)
        if source < 0:
            orphans += 1
            out[i] = _child_name(mix64(np.uint64(salt) * GOLDEN), orphans, table)
        else:
            out[i] = _child_name(parents[source], number[source], table)
            number[source] += 1
    return out


@kernel
def child_of(parents: UInts, name: np.uint64, most: int) -> int:
    """Return which of ``parents (N,)`` a name is a child of, among their first ``most`` children; -1 for none."""
    table = _name_table(parents)
    for number in range(1, most):
        for i in range(len(parents)):
            if _child_name(parents[i], number, table) == name:
                return i
    return -1


MISSES = 64
"""So many numbers in a row that no child has end the search for an element's children."""


@kernel
def descendants(names: UInts, sought: UInts) -> Ints:
    """Return for each of ``names (N,)`` which of ``sought (M,)`` it is or comes from by splitting; -1 for none.

    An element is found by the names that splittings give: those of its children, of their children, and so on.
    """
    table = _name_table(names)
    order = np.argsort(names)
    sorted_names = names[order]
    origin = np.full(len(names), -1, np.int64)
    frontier = sought.copy()
    owner = np.arange(len(sought))
    for i in range(len(sought)):
        if _is_in(table, sought[i]):
            origin[order[np.searchsorted(sorted_names, sought[i])]] = i
    while len(frontier):
        found = np.empty(len(names), np.uint64)
        found_owner = np.empty(len(names), np.int64)
        count = 0
        for i in range(len(frontier)):
            number, misses = 1, 0
            while misses < MISSES:
                name = mix64(frontier[i] + np.uint64(number) * GOLDEN)
                misses += 1
                number += 1
                while _is_in(table, name):
                    misses = 0
                    row = order[np.searchsorted(sorted_names, name)]
                    if origin[row] < 0:
                        origin[row] = owner[i]
                        found[count], found_owner[count] = name, owner[i]
                        count += 1
                    name = mix64(name + SEED)
        frontier, owner = found[:count].copy(), found_owner[:count].copy()
    return origin


@inline
def _pair_name(first: np.uint64, second: np.uint64) -> np.uint64:
    """A hash of two names, by constants of its own: a child's name is a hash too, and must not cancel out in this."""
    return mix64(np.uint64(3) * mix64(first + PAIR) + mix64(second ^ PAIR))


@kernel
def hash_pairs(first: UInts, second: UInts) -> UInts:
    """Hash two identities into one, whatever their order."""
    out = np.empty(len(first), np.uint64)
    for i in range(len(first)):
        low, high = min(first[i], second[i]), max(first[i], second[i])
        out[i] = _pair_name(low, high)
    return out


@kernel
def hash_in_order(first: UInts, second: UInts) -> UInts:
    """Hash two identities into one; the other way round gives another."""
    out = np.empty(len(first), np.uint64)
    for i in range(len(first)):
        out[i] = _pair_name(first[i], second[i])
    return out


@inline
def _twin_name(name: np.uint64, number: int, table: UInts) -> np.uint64:
    """What the ``number``-th further element of one name is called: nothing in ``table`` has it."""
    twin = mix64(name ^ (np.uint64(number) * TWIN))
    while _is_in(table, twin):
        twin = mix64(twin + TWIN)
    return twin


@kernel
def distinct_names(names: UInts) -> UInts:
    """Return names ``(N,)`` of which no two are alike: the first of equal ones stays, further ones become its twins."""
    table = _name_table(names)
    last = np.uint64(len(table) - 1)
    seen = np.zeros(len(table), np.int64)
    out = names.copy()
    for i in range(len(names)):
        at = names[i] & last
        while table[at] != names[i]:
            at = (at + np.uint64(1)) & last
        if seen[at]:
            out[i] = _twin_name(names[i], seen[at], table)
        seen[at] += 1
    return out


@kernel
def twin_of(names: UInts, name: np.uint64, most: int) -> int:
    """Return which of ``names (N,)`` a name is a twin of, among their first ``most`` twins; -1 for none."""
    table = _name_table(names)
    for number in range(1, most):
        for i in range(len(names)):
            if _twin_name(names[i], number, table) == name:
                return i
    return -1


@inline
def name_of_number(number: int) -> np.uint64:
    """The name of one whole number."""
    return mix64(np.uint64(number) * GOLDEN + SEED)


@inline
def random_of_name(name: np.uint64, seed: int) -> float:
    """A number in [0, 1) of one name and seed."""
    bits = mix64(name ^ mix64(np.uint64(seed) + SEED))
    return np.float64(bits >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@kernel
def names_of_numbers(numbers: Ints) -> UInts:
    """Return a name for each whole number ``(N,)``, the same for equal ones."""
    out = np.empty(len(numbers), np.uint64)
    for i in range(len(numbers)):
        out[i] = name_of_number(numbers[i])
    return out


@kernel
def _unit_random(identity: UInts, seed: AnyArray) -> Floats:
    out = np.empty(len(identity), np.float64)
    for i in range(len(identity)):
        out[i] = random_of_name(identity[i], seed[i])
    return out


def unit_random(identity: UInts, seed: AnyArray | int) -> Floats:
    """Return numbers in [0, 1), one per identity ``(N,)`` and integer seed (one, or ``(N,)``)."""
    return _unit_random(identity, np.ascontiguousarray(np.broadcast_to(np.asarray(seed, np.int64), identity.shape)))
