"""Stable names: no two alike in any result, generators apart, and values that hang on them stay where they were."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.geometry import Kind
from reticula.core.operators import OPERATORS
from tests.invariance.motions import NAMES, SHAPES

KINDS: tuple[Kind, ...] = ("point", "edge", "corner", "face", "curve", "instance")
GENERATORS = [name for name, entry in OPERATORS.items() if not entry.inputs and entry.family == "shapes"]
SMALL = 20_000


def results(name: str, geo: Geo, second: Geo) -> list[Geo]:
    """What an operator makes of a shape, and a second one where it takes one; nothing where it cannot."""
    entry = OPERATORS[name]
    given = [[geo, second] if wish.many else second if i else geo for i, wish in enumerate(entry.inputs)]
    with collecting():
        try:
            return list(entry.run(given, entry.check({})))
        except ReticulaError:
            return []


def assert_unique(geo: Geo, told: str) -> None:
    for kind in KINDS:
        if kind == "edge" and len(np.unique(np.sort(geo.topology.edges, axis=1), axis=0)) < geo.topology.edge_count:
            continue
        names = geo.identity(kind)
        assert len(np.unique(names)) == len(names), f"{told}: {kind}"


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("kind", SHAPES)
def test_no_two_names_are_alike(kind: str, name: str) -> None:
    """Once, again on the result, with itself as second input, and with instances made real."""
    geo = SHAPES[kind]()
    for made in results(name, geo, geo):
        assert_unique(made, name)
        for again in results(name, made, made) if made.topology.face_count < SMALL else ():
            assert_unique(again, f"{name} twice")
            assert_unique(
                ops.flatten_instances(again), f"{name} twice, made real"
            ) if again.topology.instance_count else None


@given(st.data())
@settings(max_examples=60, deadline=None, derandomize=True)
def test_no_two_names_are_alike_after_chains(data: st.DataObject) -> None:
    geo = SHAPES[data.draw(st.sampled_from(sorted(SHAPES)))]()
    told = []
    for _ in range(5):
        name = data.draw(st.sampled_from(NAMES))
        told.append(name)
        for made in results(name, geo, data.draw(st.sampled_from([geo, ops.grid(cells=(3, 3)), ops.box()]))):
            assert_unique(made, " > ".join(told))
            geo = made if 0 < made.topology.point_count < 2000 else geo


@pytest.mark.parametrize(("one", "other"), itertools.combinations(GENERATORS, 2))
def test_generators_name_their_elements_differently(one: str, other: str) -> None:
    a, b = results(one, Geo.empty(), Geo.empty()), results(other, Geo.empty(), Geo.empty())
    for kind in ("point", "face", "curve"):
        for first, second in itertools.product(a, b):
            assert not np.isin(first.identity(kind), second.identity(kind)).any()


def test_a_seed_makes_other_names() -> None:
    few, more, others = (ops.scatter(ops.grid(), seed=seed, total=total) for seed, total in ((1, 20), (1, 30), (2, 20)))
    assert np.isin(few.identity("point"), more.identity("point")).all()
    assert not np.isin(few.identity("point"), others.identity("point")).any()


@pytest.mark.parametrize("kind", ["point", "face"])
def test_joining_in_front_changes_no_values(kind: Kind) -> None:
    sheet, ball = ops.grid(cells=(5, 5)), ops.sphere()
    alone = ops.random_values(sheet, name="chance", kind=kind).attribute(kind, "chance")
    for front in (ball, ops.join(ball, ball), ops.scatter(sheet), ops.mirror(ball)):
        joined = ops.random_values(ops.join(front, sheet), name="chance", kind=kind).attribute(kind, "chance")
        assert (joined[-len(alone) :] == alone).all()


def test_the_first_of_equal_names_keeps_its_own() -> None:
    box = ops.box()
    twice = ops.join(box, box)
    assert (twice.identity("face")[:6] == box.identity("face")).all()
    assert len(np.unique(twice.identity("face"))) == 12
    mirrored = ops.mirror(ops.mirror(ops.grid(), through=(2, 0, 0)), through=(0, 0, 5), direction=(0, 0, 1))
    assert (mirrored.identity("point")[: ops.grid().topology.point_count] == ops.grid().identity("point")).all()


def test_a_pick_stays_on_its_mesh_after_a_join() -> None:
    sheet, ball = ops.grid(), ops.geodesic_sphere()
    picked = f"{ball.identity('face')[7]:016x}"
    joined = ops.group_picked(ops.join(sheet, ball), elements=[picked], kind="face")
    assert np.flatnonzero(joined.group("face", "picked")).tolist() == [sheet.topology.face_count + 7]


def six_boxes() -> Geo:
    return ops.join(*[ops.transform(ops.box(), move=(2 * n, 0, 0)) for n in range(6)])


@pytest.mark.parametrize("way", ["random_values", "random_values, measured", "formula", "attribute"])
@pytest.mark.parametrize("kind", ["point", "face"])
def test_values_of_pieces_stay_when_one_is_removed(kind: Kind, way: str) -> None:
    def values(geo: Geo) -> np.ndarray:
        if way == "random_values":
            geo = ops.random_values(geo, name="chance", kind=kind, per="piece")
        elif way == "random_values, measured":
            geo = ops.random_values(ops.measure(geo, what="piece", name="part"), name="chance", kind=kind, per="part")
        else:
            geo = ops.measure(geo, what="piece", name="piece") if way == "attribute" else geo
            geo = ops.set_attribute(geo, name="chance", kind=kind, value="random(3, piece)")
        return geo.attribute(kind, "chance")

    every = six_boxes()
    before = values(every)
    each = len(before) // 6
    assert len(np.unique(before)) == 6
    for gone in range(6):
        left = np.delete(before, np.arange(gone * each, (gone + 1) * each))
        assert (values(ops.remove(every, where=f"piece == {gone}")) == left).all()
    in_front = values(ops.join(ops.sphere(), every))
    assert (in_front[-len(before) :] == before).all()


def test_values_of_cells_stay_when_a_centre_is_removed() -> None:
    centers = ops.scatter_in_volume(ops.box(), amount="total", total=12, seed=4)

    def values(centers: Geo) -> dict[int, set[float]]:
        cells = ops.break_into_cells(ops.box(), centers)
        cells = ops.random_values(cells, name="chance", kind="face", per="cell")
        stable, chance = cells.attribute("face", "cell_name"), cells.attribute("face", "chance")
        return {int(name): set(chance[stable == name]) for name in np.unique(stable)}

    every = values(centers)
    assert len(every) == 12
    fewer = values(ops.remove(centers, kind="point", where="index == 3"))
    assert len(fewer) == 11
    assert all(every[name] == chance and len(chance) == 1 for name, chance in fewer.items())
