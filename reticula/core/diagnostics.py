"""Diagnostics: what an operator found worth telling, gathered beside its result.

An operator calls :func:`note` or :func:`warn`. Whoever runs it opens :func:`collecting` to receive them; without a
collector a warning becomes a Python warning, so that nothing is lost in scripts.
"""

from __future__ import annotations

import contextlib
import warnings
from collections.abc import Iterator

from reticula.core.context import Note, current, using

__all__ = ["Note", "ReticulaWarning", "collecting", "note", "warn"]


class ReticulaWarning(UserWarning):
    """A result that is valid but may not be what was meant."""


@contextlib.contextmanager
def collecting() -> Iterator[list[Note]]:
    """Gather all notes made inside the block into the list that is yielded."""
    gathered: list[Note] = []
    with using(notes=gathered):
        yield gathered


def note(text: str) -> None:
    """Say something useful about the result."""
    gathered = current().notes
    if gathered is not None:
        gathered.append(Note("note", text))


def warn(text: str) -> None:
    """Say that the result may not be what was meant."""
    gathered = current().notes
    if gathered is None:
        warnings.warn(text, ReticulaWarning, stacklevel=3)
    else:
        gathered.append(Note("warning", text))
