"""Random values, noise, measures and statistics."""

import numpy as np
import pytest
from scipy.stats import kstest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.language import evaluate


@pytest.fixture(scope="module")
def sheet() -> Geo:
    return ops.grid(cells=(40, 40))


def made(geo: Geo, **parameters: object) -> np.ndarray:
    return ops.random_values(geo, **parameters).attribute("point", "variation")


def test_uniform_and_normal_fit_their_distributions(sheet: Geo, notes: list[Note]) -> None:
    assert kstest(made(sheet, low=2, high=5), "uniform", (2, 3)).pvalue > 0.01
    assert kstest(made(sheet, values="normal", mean=3, deviation=0.5), "norm", (3, 0.5)).pvalue > 0.01
    assert notes[0].text.startswith("Values are 2 to 4.99")


def test_integers_and_choices(sheet: Geo) -> None:
    whole = made(sheet, values="integer", low=-1, high=2)
    assert whole.dtype == np.int64
    assert set(np.unique(whole)) == {-1, 0, 1, 2}
    words = made(sheet, values="choice", choices="sand rock", weights="3 1")
    assert 0.68 < (words == "sand").mean() < 0.82
    assert set(np.unique(made(sheet, values="choice", choices="1 4 9"))) == {1, 4, 9}
    assert made(sheet, values="choice", choices="0.5 2").dtype == np.float64
    with pytest.raises(ParameterError, match="give 2 numbers"):
        made(sheet, values="choice", choices="a b", weights="1")
    with pytest.raises(ParameterError, match="not a number"):
        made(sheet, values="choice", choices="a b", weights="1 x")


def test_directions_and_colours(sheet: Geo) -> None:
    ways = made(sheet, values="unit vector")
    np.testing.assert_allclose(np.linalg.norm(ways, axis=1), 1.0)
    assert np.abs(ways.mean(axis=0)).max() < 0.06
    colors = made(sheet, values="color")
    assert colors.shape[1] == 4
    assert (colors[:, 3] == 1).all()
    assert colors.min() >= 0
    assert colors.max() <= 1


def test_values_stay_when_elements_are_added() -> None:
    few, many = ops.grid(cells=(9, 4)), ops.grid(cells=(9, 7))
    assert (made(few) == made(many)[: len(made(few))]).all()
    assert (made(few) != made(few, seed=1)).any()


def test_pieces_and_labels_share_a_value() -> None:
    two = ops.join(ops.grid(cells=(2, 2)), ops.transform(ops.grid(cells=(2, 2)), move=(3, 0, 0)))
    value = made(two, per="piece")
    assert len(np.unique(value)) == 2
    words = two.with_attribute("point", "use", np.array(["a", "b"] * 9))
    assert len(np.unique(made(words, per="use"))) == 2
    with pytest.raises(ParameterError, match="a label is"):
        made(two, per="normal")


def test_noise_is_the_language_s_noise(sheet: Geo) -> None:
    got = ops.noise_values(sheet, frequency=3.0, octaves=2, offset=(0.1, 0, 0)).attribute("point", "rough")
    wanted = evaluate("noise((position - vec3(0.1, 0, 0)) * 3, 2)", sheet, "point").array
    np.testing.assert_allclose(got, wanted)
    cells = ops.noise_values(sheet, noise="cell distance", frequency=5).attribute("point", "rough")
    np.testing.assert_allclose(cells, evaluate("cells(position * 5)", sheet, "point").array)
    label = ops.noise_values(sheet, noise="cell label", frequency=5).attribute("point", "rough")
    assert 15 < len(np.unique(label)) < 80
    assert ops.noise_values(sheet, noise="vector").attribute("point", "rough").shape[1] == 3


def test_noise_seeds_and_ranges(sheet: Geo) -> None:
    a, b = (ops.noise_values(sheet, seed=seed).attribute("point", "rough") for seed in (0, 1))
    assert abs(np.corrcoef(a, b)[0, 1]) < 0.3
    scaled = ops.noise_values(sheet, rescale=True, low=10, high=20).attribute("point", "rough")
    np.testing.assert_allclose(scaled, 15 + 5 * a)


@pytest.mark.parametrize(
    ("what", "kind", "value"),
    [
        ("area", "face", 1.0),
        ("perimeter", "face", 4.0),
        ("length", "edge", 1.0),
        ("angle", "edge", 90.0),
        ("face_count", "edge", 2),
        ("sides", "face", 4),
        ("valence", "point", 3),
        ("planarity", "face", 0.0),
        ("piece", "point", 0),
        ("piece_size", "face", 6),
        ("piece_size", "point", 8),
        ("gauss_curvature", "point", np.pi),
    ],
)
def test_measures_of_a_unit_box(what: str, kind: str, value: float) -> None:
    """By hand. Of the curvature only the sum is told: each corner misses a quarter turn, all eight two full ones."""
    box = ops.measure(ops.box(), what=what)
    got = box.attribute(kind, what)
    if what == "gauss_curvature":
        assert got @ _areas(box) == pytest.approx(4 * np.pi)
    else:
        np.testing.assert_allclose(got, value, atol=1e-12)


def _areas(geo: Geo) -> np.ndarray:
    from reticula.core.geometry.measure.curvature import mixed_areas

    return mixed_areas(geo)


def test_angles_tell_ridges_from_valleys() -> None:
    roof = Geo.from_faces(
        [[0, 1, 0], [0, 1, 1], [-1, 0, 0], [-1, 0, 1], [1, 0, 0], [1, 0, 1]], [[0, 2, 3, 1], [0, 1, 5, 4]]
    )
    assert ops.measure(roof, what="angle").attribute("edge", "angle").max() == pytest.approx(90)
    assert ops.measure(ops.reverse(roof), what="angle").attribute("edge", "angle").min() == pytest.approx(-90)


def test_thickness_of_a_plate(notes: list[Note]) -> None:
    plate = ops.box(size=(1, 0.1, 1), cells=(4, 1, 4))
    got = ops.measure(plate, what="thickness").attribute("point", "thickness")
    inner = (np.abs(plate.positions[:, [0, 2]]) < 0.49).all(axis=1)
    np.testing.assert_allclose(got[inner], 0.1, rtol=1e-6)
    ops.measure(ops.grid(), what="thickness")
    assert "look at no other side" in notes[-1].text


def test_walks_stop_at_gaps(sheet: Geo, notes: list[Note]) -> None:
    two = ops.join(ops.grid(cells=(4, 4)), ops.transform(ops.grid(cells=(4, 4)), move=(3, 0, 0)))
    far = ops.measure(two, what="walk", name="away", begin="index == 12").attribute("point", "away")
    assert far[12] == 0
    assert (far[25:] == -1).all()
    assert "25 points cannot be reached" in " ".join(note.text for note in notes)
    capped = ops.measure(two, what="walk", begin="index == 12", reach=0.3).attribute("point", "walk")
    assert capped.max() == pytest.approx(0.3)
    ops.measure(two, what="walk", begin="False")
    assert "no point to begin at" in " ".join(note.text for note in notes)


def test_walks_follow_curves() -> None:
    line = ops.line(begin=(0, 0, 0), end=(3, 0, 0))
    bent = ops.resample(line, count=7)
    far = ops.measure(bent, what="walk", begin="index == 0").attribute("point", "walk")
    np.testing.assert_allclose(far, bent.positions[:, 0], atol=1e-12)


def test_statistics_feed_formulas_further_down(notes: list[Note]) -> None:
    tall = ops.statistics(ops.box(size=(1, 3, 1)), name="height", value="position.y")
    assert tall.attribute("whole", "height_high")[0] - tall.attribute("whole", "height_low")[0] == pytest.approx(3.0)
    assert tall.attribute("whole", "height_count")[0] == 8
    assert notes[0].text == "8 points: -1.5 to 1.5; mean 0."
    share = evaluate("remap(position.y, height_low, height_high, 0, 1)", tall, "point").array
    assert set(share) == {0.0, 1.0}
    corners = ops.statistics(ops.box(), name="box", value="position", where="position.y > 10")
    assert "No points count" in notes[-1].text
    np.testing.assert_array_equal(corners.attribute("whole", "box_low"), np.zeros((1, 3)))
    middle = ops.statistics(ops.grid(cells=(2, 1)), kind="face", name="n", value="index")
    assert middle.attribute("whole", "n_median")[0] == 0.5
    assert middle.attribute("whole", "n_deviation")[0] == 0.5
    with pytest.raises(ParameterError, match="need numbers"):
        ops.statistics(ops.box(), value="'a'")
