"""Geometries put together, with a word about attributes that some of them lack."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reticula.core.diagnostics import note, warn
from reticula.core.geometry.edit.concatenate import concatenate, concatenation_losses
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL

__all__ = ["concatenate_and_tell"]


def concatenate_and_tell(geometries: Sequence[Geo]) -> Geo:
    """Return the geometries as one; note who got defaults, warn of attributes whose types do not go together."""
    for lost in concatenation_losses(geometries):
        for name, types in lost.left_out.items():
            warn(f"The {lost.kind} attribute '{name}' has several types ({', '.join(types)}) and was left out.")
        for count, defaults in lost.filled.items():
            without = ", ".join(f"'{name}' ({_in_words(value)})" for name, value in defaults.items())
            note(f"{count:,} {PLURAL[lost.kind]} had no {without} and hold these defaults.")
    return concatenate(geometries)


def _in_words(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, (int, float)) else str(value)
