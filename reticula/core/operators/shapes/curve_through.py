"""Curves through places that are set by hand."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.geometry import Geo, Topology
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Integer, Toggle
from reticula.core.operators.shared.picked import Places
from reticula.core.operators.shared.plane_curves import curves_of

__all__ = ["curve_through"]


@operator(
    "curve_through",
    family="shapes",
    inputs=(),
    keywords=("path", "polyline", "spline", "draw", "points by hand", "attractor", "guide", "curve"),
    carries="makes no attributes",
    example="""
        way = curve_through(
            places=[[-0.6, 0, 0], [-0.2, 0.4, 0], [0.2, 0, 0.2], [0.6, 0.3, 0]], between="smooth", segments=16
        )
        sweep(way, radius=0.03)
    """,
    related=("line", "arc", "resample"),
    parameters=(
        Places(
            "places",
            [[-0.5, 0.0, 0.0], [0.0, 0.25, 0.0], [0.5, 0.0, 0.0]],
            "where it passes; dragged in the view",
            unit="m",
            least=1,
            handle=Handle("places"),
        ),
        Choice(
            "between",
            "straight",
            "how it goes from place to place",
            options={
                "straight": "in straight lines",
                "smooth": "round, through every place",
            },
        ),
        Integer(
            "segments",
            8,
            "parts from place to place",
            soft=(1, 32),
            low=1,
            high=10_000,
            shown_when=("between", "smooth"),
        ),
        Toggle("closed", False, "from the last place back to the first"),
    ),
)
def curve_through(*, places: list[list[float]], between: str, segments: int, closed: bool) -> Geo:
    """Curve through places that are set in the view or typed; one place alone is a point.

    The smooth one is a centripetal Catmull-Rom spline: Yuksel, Schaefer & Keyser, "Parameterization and applications of
    Catmull-Rom curves", Computer-Aided Design 43, 2011. It has no cusps and does not cross itself between two places.
    """
    given = np.array(places, np.float64).reshape(-1, 3)
    if len(given) == 1:
        return Geo.of(given, Topology(1))
    ring = closed and len(given) > 2
    through = _spline(given, segments, ring) if between == "smooth" and len(given) > 2 else given
    return curves_of(through, [len(through)], ring)


def _spline(places: Floats, segments: int, closed: bool) -> Floats:
    """Return points on the spline: ``segments`` for each stretch between places, and the last place of an open one."""
    before, after = (
        (places[-1:], places[:2]) if closed else (2 * places[:1] - places[1:2], 2 * places[-1:] - places[-2:-1])
    )
    knots = np.concatenate([before, places, after])
    stretches = len(places) if closed else len(places) - 1
    a, b, c, d = (knots[i : i + stretches, None] for i in range(4))
    gaps = [
        np.maximum(np.sqrt(np.linalg.norm(q - p, axis=2, keepdims=True)), 1e-12) for p, q in ((a, b), (b, c), (c, d))
    ]
    t0 = np.zeros_like(gaps[0])
    t1, t2 = gaps[0], gaps[0] + gaps[1]
    t3 = t2 + gaps[2]
    t = t1 + (t2 - t1) * (np.arange(segments) / segments)[None, :, None]

    def mixed(p: Floats, q: Floats, low: Floats, high: Floats) -> Floats:
        return np.asarray(((high - t) * p + (t - low) * q) / (high - low))

    first, middle, last = mixed(a, b, t0, t1), mixed(b, c, t1, t2), mixed(c, d, t2, t3)
    points = mixed(mixed(first, middle, t0, t2), mixed(middle, last, t1, t3), t1, t2).reshape(-1, 3)
    points[::segments] = places[:stretches]
    return points if closed else np.concatenate([points, places[-1:]])
