"""What comes in at other frames, as the operator that looks at them knows it, and elements found again by name."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import Ints, UInts
from reticula.core.context import KeyedGeo, current
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import in_space_of

__all__ = ["at_other_frames", "rows_of"]


def at_other_frames(geo: Geo, frames: Sequence[float], entry: str = "geo") -> dict[float, Geo]:
    """Return what comes in at an input at ``frames``, in their order, as it stands in the space of ``geo``.

    ``geo`` is what comes in now. Outside of a graph there is no other moment: it is the same at every frame.
    """
    call = current().call
    if call is None or not call.frames:
        return dict.fromkeys(map(float, frames), geo)
    there = {frame: call.frames[float(frame)][entry] for frame in frames}
    return {frame: in_space_of(part.geo, geo) for frame, part in there.items() if isinstance(part, KeyedGeo)}


def rows_of(names: UInts, sought: UInts) -> Ints:
    """Return where each of ``sought (M,)`` is among ``names (N,)``; -1 where it is not."""
    if not len(names):
        return np.full(len(sought), -1)
    order = np.argsort(names, kind="stable")
    at = np.minimum(np.searchsorted(names[order], sought), len(names) - 1)
    rows = order[at]
    return np.where(names[rows] == sought, rows, -1)
