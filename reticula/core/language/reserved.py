"""Names that mean something in formulas and scripts, so that no attribute or group can be read by them."""

from __future__ import annotations

import keyword

from reticula.core.language.scope import BUILTINS, CONSTANTS, TIMELINE

__all__ = ["readable_name", "what_it_means"]

WORDS = frozenset(keyword.kwlist) | {"here"}
OURS = frozenset({"normal", "position", "area", "length", "perimeter", "valence", "piece", "piece_size", "border"})
"""Built-in values that attributes may stand in for: what is kept is what was measured."""
GROUPS = frozenset({"border"})
"""Built-in flags that groups may stand in for."""


def what_it_means(name: str, *, group: bool = False) -> str:
    """Return what a name means in a formula, if it cannot be the name of an attribute, or of a ``group``; else ""."""
    if name in WORDS:
        return "a word of the language"
    if name in CONSTANTS or name in TIMELINE:
        return "a built-in value"
    read = BUILTINS[name].read.keys() - {"whole"} if name in BUILTINS else ()
    if read and name not in (GROUPS if group else OURS):
        return "a built-in value"
    return "'position'" if group and name == "position" else ""


def readable_name(word: str) -> str:
    """Return a name that formulas can read, as close to a word from elsewhere as can be."""
    clean = "".join(letter if letter.isalnum() or letter == "_" else "_" for letter in word) or "_"
    clean = clean if clean[0].isalpha() or clean[0] == "_" else f"_{clean}"
    return f"{clean}_" if what_it_means(clean) else clean
