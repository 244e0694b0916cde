"""What closed outlines enclose by even-odd and by non-zero."""

import numpy as np
import pytest
import shapely

from reticula.core.geometry.planar.outline_regions import Regions, outline_regions


def square(x: float, y: float, size: float) -> np.ndarray:
    return np.array([[x, y], [x + size, y], [x + size, y + size], [x, y + size]])


def polygons(found: Regions, loops: list[np.ndarray]) -> list[shapely.Polygon]:
    places = np.concatenate([*loops, found.added])
    return [shapely.Polygon(places[rings[0]], [places[hole] for hole in rings[1:]]) for rings in found.regions]


def area(loops: list[np.ndarray], rule: str) -> float:
    found = polygons(outline_regions(loops, rule), loops)
    assert all(polygon.is_valid and polygon.exterior.is_ccw for polygon in found)
    return float(sum(polygon.area for polygon in found))


def test_nested_outlines_need_no_new_points() -> None:
    loops = [square(0, 0, 4), square(1, 1, 2)[::-1]]
    found = outline_regions(loops, "even-odd")
    assert len(found.added) == 0
    assert [len(rings) for rings in found.regions] == [2]


@pytest.mark.parametrize(("rule", "wanted"), [("even-odd", 6), ("non-zero", 7)])
def test_squares_that_overlap(rule: str, wanted: float) -> None:
    assert area([square(0, 0, 2), square(1, 1, 2)], rule) == pytest.approx(wanted)


@pytest.mark.parametrize(("rule", "wanted"), [("even-odd", 2), ("non-zero", 2)])
def test_squares_that_share_a_side(rule: str, wanted: float) -> None:
    assert area([square(0, 0, 1), square(1, 0, 1)], rule) == pytest.approx(wanted)


def test_the_pentagram_of_every_text_about_filling_rules() -> None:
    """Even-odd leaves the pentagon in the middle open, non-zero fills it (SVG 2, `fill-rule`)."""
    angle = 0.5 * np.pi + 2 * np.pi * np.arange(5) * 2 / 5
    star = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    inner = (3 - np.sqrt(5)) / 2
    pentagon = 2.5 * np.sin(2 * np.pi / 5)
    assert area([star], "non-zero") - area([star], "even-odd") == pytest.approx(pentagon * inner**2)


def test_random_outlines_are_what_a_general_library_says() -> None:
    """Beside shapely: the parts between all segments, each counted by a ray through its middle."""
    random = np.random.default_rng(3)
    for _ in range(20):
        loops = [random.uniform(size=(7, 2)), random.uniform(size=(5, 2))]
        rings = [shapely.LinearRing(loop) for loop in loops]
        parts = shapely.polygonize([shapely.node(shapely.GeometryCollection(rings))]).geoms
        wanted = 0.0
        for part in parts:
            middle = part.representative_point()
            ray = shapely.LineString([middle, (9.0, middle.y)])
            hits = sum(len(shapely.get_coordinates(ray.intersection(ring))) for ring in rings)
            wanted += part.area * (hits % 2)
        assert area(loops, "even-odd") == pytest.approx(wanted)
