"""Drawings, as curves of a geometry: what SVG and DXF have in common.

A drawing lies on the ground as if seen from above: its x to the right is x, its upward direction is -z.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from reticula.core.arrays import AnyArray, Floats, starts_from_sizes
from reticula.core.errors import FormatError
from reticula.core.formats.shared.places import check_places
from reticula.core.geometry import Attribute, Geo, Topology

__all__ = ["Stroke", "arc_steps", "bezier", "bezier_steps", "drawing"]

MOST_STEPS = 10_000
"""Segments of one bow."""
CLOSE = 1e-9
"""Share of the drawing's size below which two places are one."""


@dataclass
class Stroke:
    """One line of a drawing: ``places (N, 3)`` in m, and what it looks like. ``color`` is linear with opacity."""

    places: Floats
    closed: bool = False
    layer: str = ""
    name: str = ""
    color: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 1.0)
    width: float = 0.0


@dataclass
class Gathered:
    points: list[Floats] = field(default_factory=list)
    sizes: list[int] = field(default_factory=list)
    strokes: list[Stroke] = field(default_factory=list)


def drawing(strokes: list[Stroke], loose: Floats | None = None) -> Geo:
    """Return the strokes as curves, with ``layer``, ``name``, ``color`` and ``width`` (m) on them; ``loose (N, 3)`` are
    points besides. Places that follow each other at once are one; strokes that end where they began are closed.

    Raises FormatError if nothing is left.
    """
    everything = [stroke.places for stroke in strokes] + ([loose] if loose is not None else [])
    size = max((float(np.abs(places).max(initial=0.0)) for places in everything), default=0.0)
    found = Gathered()
    for stroke in strokes:
        places = np.asarray(stroke.places, np.float64).reshape(-1, 3)
        check_places(places)
        apart = np.linalg.norm(np.diff(places, axis=0), axis=1) > CLOSE * size
        places = places[np.append(True, apart)] if len(places) else places
        ends_where_it_began = len(places) > 2 and np.linalg.norm(places[0] - places[-1]) <= CLOSE * size
        places = places[:-1] if ends_where_it_began else places
        if len(places) < 2:
            continue
        found.points.append(places)
        found.sizes.append(len(places))
        stroke.closed = (stroke.closed or bool(ends_where_it_began)) and len(places) > 2
        found.strokes.append(stroke)
    extra = np.zeros((0, 3)) if loose is None else np.asarray(loose, np.float64).reshape(-1, 3)
    check_places(extra)
    if not found.points and not len(extra):
        raise FormatError("there is no line in this drawing")
    along = sum(found.sizes)
    topology = Topology(
        along + len(extra),
        curve_start=starts_from_sizes(np.array(found.sizes, np.int64)),
        curve_point=np.arange(along),
        curve_closed=np.array([stroke.closed for stroke in found.strokes], bool),
    )
    geo = Geo.of(np.concatenate([*found.points, extra]), topology)
    return _looks(geo, found.strokes) if found.strokes else geo


def _looks(geo: Geo, strokes: list[Stroke]) -> Geo:
    geo = geo.with_attribute("curve", "color", np.array([stroke.color for stroke in strokes], np.float64))
    for name in ("layer", "name"):
        texts = [getattr(stroke, name) for stroke in strokes]
        if any(texts):
            geo = geo.with_attribute("curve", name, Attribute.of(np.array(texts), "text"))
    widths: AnyArray = np.array([stroke.width for stroke in strokes])
    return geo.with_attribute("curve", "width", widths) if widths.any() else geo


def bezier_steps(control: Floats, error: float) -> int:
    """Return how many even steps of a Bézier curve of ``control (n+1, d)`` keep within ``error`` of it.

    After Wang, "The subdivision method for finding the intersection between two Bézier curves or surfaces", Zhejiang
    University Journal, 1984.
    """
    degree = len(control) - 1
    if degree < 2:
        return 1
    bend = np.linalg.norm(np.diff(control, 2, axis=0), axis=1).max()
    steps = math.ceil(math.sqrt(degree * (degree - 1) * bend / (8 * error)))
    return min(max(steps, 1), MOST_STEPS)


def arc_steps(radius: float, angle: float, error: float) -> int:
    """Return how many even steps along an arc of ``angle`` (radians) keep the chords within ``error`` of it."""
    if radius <= error:
        return max(math.ceil(abs(angle) / (math.pi / 2)), 1)
    step = 2 * math.acos(1 - error / radius)
    return min(max(math.ceil(abs(angle) / step), 1), MOST_STEPS)


def bezier(control: Floats, steps: int) -> Floats:
    """Return ``steps + 1`` places on a Bézier curve by de Casteljau's scheme, both ends included."""
    share = np.linspace(0.0, 1.0, steps + 1)[:, None, None]
    level = np.repeat(control[None], steps + 1, axis=0)
    while level.shape[1] > 1:
        level = level[:, :-1] * (1 - share) + level[:, 1:] * share
    return np.asarray(level[:, 0])
