"""Random chains of topology operators on random closed meshes: what was closed stays closed, nothing is lost or NaN."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from tests.helpers import bumpy, examples, is_closed, volume

Step = Callable[[Geo], Any]
HALF = "random(7) < 0.5"

STEPS: dict[str, Step] = {
    "extrude": lambda g: ops.extrude(g, where=HALF, distance=0.02, inset=0.01, together=False),
    "extrude together": lambda g: ops.extrude(g, where="normal.y > 0.7", distance=0.02, divisions=2),
    "inset": lambda g: ops.inset(g, where=HALF, distance=0.01),
    "split": lambda g: ops.split_faces(g, where=HALF),
    "split triangles": lambda g: ops.split_faces(g, where=HALF, into="triangles", seam="triangles"),
    "fan": lambda g: ops.split_faces(g, where=HALF, into="fan"),
    "catmull-clark": lambda g: ops.smooth_subdivide(g),
    "loop": lambda g: ops.smooth_subdivide(g, scheme="loop"),
    "triangulate": lambda g: ops.triangulate(g, where=HALF),
    "dual": lambda g: ops.dual(ops.triangulate(g)),
    "smooth": lambda g: ops.smooth(g, iterations=2),
    "bevel": lambda g: ops.bevel(g, where=HALF, width=0.005, segments=2),
    "bevel points": lambda g: ops.bevel(g, what="point", where=HALF, width=0.005),
    "simplify": lambda g: ops.simplify(g, share=0.6),
    "reverse twice": lambda g: ops.reverse(ops.reverse(g)),
    "slice": lambda g: ops.slice(g, through=(0.0123, 0.0071, 0.0039), direction=(0.31, 0.77, 0.2))[0],
    "region borders": lambda g: ops.region_borders(g),
}
SAME_EULER = set(STEPS) - {"slice"}
MOST = 4000


def starting(seed: int) -> Geo:
    choices: list[Callable[[], Geo]] = [
        lambda: bumpy(seed, 2),
        lambda: ops.box(cells=(2, 1, 2)),
        lambda: ops.torus(segments=9, sides=6),
    ]
    geo = choices[seed % 3]()
    return geo.with_attribute("face", "origin", np.arange(geo.topology.face_count)).with_attribute(
        "point", "heat", geo.positions[:, 0]
    )


@settings(max_examples=examples(60))
@given(st.integers(0, 10_000), st.lists(st.sampled_from(sorted(STEPS)), min_size=1, max_size=4))
def test_closed_meshes_stay_closed(seed: int, names: list[str]) -> None:
    geo = starting(seed)
    euler = geo.topology.euler_characteristic
    with collecting():
        for name in names:
            if geo.counts["faces"] > MOST:
                break
            geo = STEPS[name](geo)
            assert is_closed(geo), f"open after {name}"
            assert np.isfinite(geo.positions).all()
            for kind in ("point", "face"):
                assert len(np.unique(geo.identity(kind))) == geo.topology.count(kind), f"{name} names two {kind}s alike"
            swapped = "dual" in names
            for kind, attribute in (("face", "origin"), ("point", "heat")):
                assert geo.has(kind, attribute) or swapped, f"{name} lost {kind} {attribute}"  # type: ignore[arg-type]
            if name not in SAME_EULER:
                euler = geo.topology.euler_characteristic
            assert geo.topology.euler_characteristic == euler, f"{name} changed the topology"
    assert volume(geo) > 0


@pytest.mark.parametrize("name", sorted(STEPS))
def test_running_twice_gives_the_same_bytes(name: str) -> None:
    with collecting():
        assert STEPS[name](starting(1)).digest == STEPS[name](starting(1)).digest


@pytest.mark.parametrize("name", sorted(STEPS))
def test_identities_are_unique_and_sources_fit(name: str) -> None:
    with collecting():
        before = starting(0)
        made = STEPS[name](before)
    for kind in ("point", "face"):
        names = made.identity(kind)
        assert len(np.unique(names)) == len(names), f"{name} names two {kind}s alike"
