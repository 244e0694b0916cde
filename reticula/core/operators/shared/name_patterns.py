"""Names of attributes by pattern."""

from __future__ import annotations

from collections.abc import Iterable
from difflib import get_close_matches
from fnmatch import fnmatchcase

from reticula.core.diagnostics import warn
from reticula.core.errors import ParameterError

__all__ = ["matching"]


def matching(parameter: str, patterns: str, there: Iterable[str], what: str) -> list[str]:
    """Return the names that fit any of the patterns (spaces between, ``*`` for any letters), each once.

    A pattern that fits none is a ParameterError that names what is near; ``*`` alone warns only.
    """
    names = list(dict.fromkeys(there))
    found: dict[str, None] = {}
    for pattern in patterns.replace(",", " ").split():
        fits = [name for name in names if fnmatchcase(name, pattern)]
        if not fits and pattern == "*":
            warn(f"There are no attributes on the {what} besides positions, so nothing was done.")
        elif not fits:
            close = get_close_matches(pattern, names, 3, 0.5)
            hint = f"did you mean {' or '.join(close)}; " if close else ""
            raise ParameterError(
                parameter,
                f"there is no attribute '{pattern}' on the {what}; {hint}it has {', '.join(sorted(names)) or 'none'}",
            )
        found |= dict.fromkeys(fits)
    return list(found)
