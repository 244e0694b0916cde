"""The Stanford bunny through every operator (the npm package bunny; Stanford Computer Graphics Laboratory, 1994)."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import KINDS, measure
from reticula.core.operators import OPERATORS

CENTERS = np.random.default_rng(1).uniform(-1, 1, (20, 3))
SOLIDS = {"boolean"}


@pytest.fixture(scope="module")
def small(bunny: Geo) -> Geo:
    """The bunny, its holes closed, one metre tall or so, with a value on every kind."""
    size = np.linalg.norm(bunny.bounds[1] - bunny.bounds[0])
    geo = bunny.with_positions((bunny.positions - bunny.bounds.mean(axis=0)) / size)
    for kind in KINDS:
        if kind not in ("instance", "whole"):
            geo = geo.with_attribute(kind, f"of_{kind}", np.linspace(0, 1, geo.topology.count(kind)))
    return ops.fill(geo, using="triangles") if geo.topology.border_edges.any() else geo


@pytest.mark.parametrize("name", [n for n, e in OPERATORS.items() if e.inputs and e.family != "sources"])
def test_the_bunny_goes_through(name: str, small: Geo, notes: list[Note]) -> None:
    entry = OPERATORS[name]
    second = {"break_into_cells": Geo.of(CENTERS * 0.4), "place_instances": ops.cone(height=0.01, radius=0.01)}
    other = second.get(name, ops.transform(ops.box(size=(0.3, 0.3, 0.3)), move=(0.1, 0, 0)))
    many = [[other] if given.many else other for given in entry.inputs[1:]]
    first = [small] if entry.inputs[0].many else small
    if name == "sweep":
        many = [[]]
        first = ops.edges_to_curves(small, where="index < 500")
    for made in entry.run([first, *many], entry.check({})):
        assert made.topology.point_count + made.topology.instance_count > 0
        assert np.isfinite(made.positions).all()
        if name not in ("dual", "sweep", "join", "move_attribute"):
            assert made.has("face", "of_face") or not made.topology.face_count


def test_broken_and_put_together_again(small: Geo, notes: list[Note]) -> None:
    parts = ops.break_into_cells(small, Geo.of(CENTERS * 0.4))
    surface = measure.face_areas(parts)[~parts.group("face", "inner")].sum()
    assert surface == pytest.approx(measure.face_areas(small).sum(), rel=1e-6)
