"""Reading line-oriented text without a loop over lines: lines are told apart and their numbers read as arrays."""

from __future__ import annotations

import re
import warnings

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints
from reticula.core.errors import FormatError
from reticula.core.finite import all_finite

__all__ = ["Lines", "numbers_of", "token_counts"]

SPACE = np.zeros(256, bool)
SPACE[[9, 10, 11, 12, 13, 32]] = True


class Lines:
    """The lines of a text as arrays: ``begin (L,)`` and ``end (L,)`` (without the line break) into ``data``."""

    def __init__(self, data: bytes) -> None:
        self.data = np.frombuffer(data, np.uint8)
        breaks = np.flatnonzero(self.data == 10)
        self.begin: Ints = np.concatenate([[0], breaks + 1]).astype(np.int64)
        self.end: Ints = np.concatenate([breaks, [len(self.data)]]).astype(np.int64)

    def starting_with(self, word: bytes) -> Ints:
        """Return the numbers of the lines that begin with ``word``, and a space unless they end there."""
        found = (self.end - self.begin) >= len(word)
        at = self.begin[found]
        good = np.ones(len(at), bool)
        for i, letter in enumerate(word):
            good &= self.data[at + i] == letter
        after = at + len(word)
        good &= (after == self.end[found]) | SPACE[self.data[np.minimum(after, len(self.data) - 1)]]
        return np.flatnonzero(found)[good]

    def body(self, lines: AnyArray, skip: int) -> tuple[bytes, Ints]:
        """Return the text of some lines without their first ``skip`` letters, and the size of each with its break."""
        begin, size = self.begin[lines] + skip, self.end[lines] - self.begin[lines] - skip + 1
        total = int(size.sum())
        index = np.arange(total) + np.repeat(begin - np.cumsum(size) + size, size)
        out = self.data[np.minimum(index, len(self.data) - 1)].copy() if len(self.data) else np.zeros(total, np.uint8)
        out[np.cumsum(size) - 1] = 10
        return out.tobytes(), size

    def text(self, line: int) -> str:
        """Return one line as text."""
        return bytes(self.data[self.begin[line] : self.end[line]]).decode("utf-8", "replace").strip()


def token_counts(body: bytes, size: Ints) -> Ints:
    """Return how many words each line has; ``size`` as from :meth:`Lines.body`."""
    space = SPACE[np.frombuffer(body, np.uint8)]
    begins: Flags = ~space
    begins[1:] &= space[:-1]
    if not len(size):
        return np.zeros(0, np.int64)
    return np.add.reduceat(begins.astype(np.int64), np.cumsum(size) - size)


def numbers_of(body: bytes, expected: int, first_line: AnyArray, size: Ints, *, not_finite: bool = False) -> Floats:
    """Return all numbers of a text, correctly rounded ``(expected,)``; raise FormatError with the line of a bad one.

    ``first_line (L,)`` are the line numbers (from 0) to name in the error. ``nan`` and ``inf`` are numbers only with
    ``not_finite``.
    """
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", DeprecationWarning)
        try:
            values = np.fromstring(body, np.float64, sep=" ") if body.strip() else np.zeros(0)
        except ValueError:
            values = np.zeros(0)
    if len(values) == expected and (not_finite or all_finite(values)):
        return values
    _find_bad(body, first_line, size)
    raise FormatError(f"{expected:,} numbers were expected, but {len(values):,} were found")


def _find_bad(body: bytes, first_line: AnyArray, size: Ints) -> None:
    """Name the first word that is no number. Only broken files get here, so it may take its time."""
    start = 0
    for line, length in zip(first_line.tolist(), size.tolist(), strict=True):
        for word in body[start : start + length].split():
            try:
                bad = not np.isfinite(float(word)) or not re.fullmatch(rb"[-+0-9.eE]+", word)
            except ValueError:
                bad = True
            if bad:
                shown = word[:40].decode("utf-8", "replace")
                raise FormatError(f"'{shown}' is not a number", line=line + 1)
        start += length
