"""Values on meshes against SciPy, libigl, trimesh, closed forms and published facts."""

import igl
import numpy as np
import pytest
from scipy.spatial import cKDTree
from scipy.stats import chisquare

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from reticula.core.geometry.measure.curvature import gauss_curvatures, mean_curvatures, mixed_areas
from reticula.core.geometry.measure.geodesics import geodesic_distances
from reticula.core.language import noise
from reticula.core.spatial import points_of, surface_of
from reticula.core.spatial.all_hits import all_hits
from reticula.core.spatial.winding import winding_numbers
from tests.helpers import bumpy


@pytest.fixture(scope="module")
def cloud(bunny: Geo) -> np.ndarray:
    low, high = bunny.bounds
    return np.random.default_rng(3).uniform(low - 0.2, high + 0.2, (3000, 3))


def triangles_of(geo: Geo) -> np.ndarray:
    return geo.topology.corner_point.reshape(-1, 3).astype(np.int64)


def test_nearest_points_agree_with_scipy(bunny: Geo, cloud: np.ndarray) -> None:
    distance, index = cKDTree(bunny.positions).query(cloud)
    ours, far = points_of(bunny).nearest(cloud)
    np.testing.assert_array_equal(ours, index)
    np.testing.assert_allclose(far, distance, rtol=1e-12)


@pytest.mark.parametrize("radius", [0.05, 0.8, 4.0])
def test_neighbours_agree_with_scipy(bunny: Geo, cloud: np.ndarray, radius: float) -> None:
    theirs = cKDTree(bunny.positions).query_ball_point(cloud, radius, return_sorted=True)
    start, item, _ = points_of(bunny).near(cloud, radius)
    for row in range(0, len(cloud), 7):
        assert sorted(item[start[row] : start[row + 1]].tolist()) == theirs[row]


def test_winding_numbers_agree_with_libigl(bunny: Geo, cloud: np.ndarray) -> None:
    """The bunny has open holes below; generalised winding numbers are defined all the same."""
    exact = winding_numbers(bunny, cloud, exact=True)
    np.testing.assert_allclose(exact, igl.winding_number(bunny.positions, triangles_of(bunny), cloud), atol=1e-9)
    fast = winding_numbers(bunny, cloud)
    assert np.abs(fast - exact).max() < 0.05
    assert np.abs(fast - exact).mean() < 0.003
    clear = np.abs(exact - 0.5) > 0.05
    np.testing.assert_array_equal(fast[clear] > 0.5, exact[clear] > 0.5)


def test_a_closed_mesh_winds_once_or_not_at_all() -> None:
    """Jacobson, Kavan & Sorkine-Hornung 2013, section 3: an integer for closed meshes."""
    ball = bumpy(4, 6)
    places = np.random.default_rng(0).uniform(-1, 1, (500, 3))
    numbers = winding_numbers(ball, places, exact=True)
    np.testing.assert_allclose(numbers, np.round(numbers), atol=1e-9)
    assert set(np.round(numbers)) == {0.0, 1.0}


def test_all_hits_agree_with_trimesh(bunny: Geo, cloud: np.ndarray) -> None:
    import trimesh

    mesh = trimesh.Trimesh(bunny.positions, triangles_of(bunny), process=False)
    ways = np.random.default_rng(5).normal(size=cloud.shape)
    from trimesh.ray.ray_triangle import RayMeshIntersector

    _, rays = RayMeshIntersector(mesh).intersects_id(cloud[:150], ways[:150], multiple_hits=True)
    start, places = all_hits(surface_of(bunny), cloud[:150], ways[:150])
    np.testing.assert_array_equal(np.diff(start), np.bincount(rays, minlength=150))
    far = places.distance
    assert all((np.diff(far[a:b]) >= 0).all() for a, b in zip(start, start[1:], strict=False))


@pytest.mark.parametrize("radius", [0.5, 2.0])
def test_curvature_of_a_sphere(radius: float) -> None:
    """1 / r and 1 / r² everywhere (any textbook of differential geometry)."""
    ball = ops.geodesic_sphere(radius=radius, frequency=24)
    np.testing.assert_allclose(mean_curvatures(ball), 1 / radius, rtol=1e-3)
    np.testing.assert_allclose(gauss_curvatures(ball), 1 / radius**2, rtol=2e-2)
    np.testing.assert_allclose(mean_curvatures(ops.reverse(ball)), -1 / radius, rtol=1e-3)


def test_curvature_of_a_torus() -> None:
    """K = cos v / (r (R + r cos v)), H = (R + 2 r cos v) / (2 r (R + r cos v)); do Carmo 1976, chapter 3."""
    ring = ops.torus(segments=160, sides=96)
    place = ring.positions
    axis = np.argmin(np.ptp(place, axis=0))
    across = np.delete(place, axis, axis=1)
    out = np.linalg.norm(across, axis=1)
    large, small = (out.max() + out.min()) / 2, (out.max() - out.min()) / 2
    cosine = (out - large) / small
    gauss, mean = cosine / (small * out), (large + 2 * small * cosine) / (2 * small * out)
    np.testing.assert_allclose(gauss_curvatures(ring), gauss, atol=0.02 * np.abs(gauss).max())
    np.testing.assert_allclose(mean_curvatures(ring), mean, atol=0.02 * np.abs(mean).max())


@pytest.mark.parametrize("seed", range(4))
def test_gauss_bonnet(seed: int) -> None:
    """The sum of curvature times area is 2 pi times the Euler characteristic: 2 of a ball, 0 of a torus."""
    ball = bumpy(seed, 5)
    assert gauss_curvatures(ball) @ mixed_areas(ball) == pytest.approx(4 * np.pi)
    ring = ops.torus()
    assert gauss_curvatures(ring) @ mixed_areas(ring) == pytest.approx(0.0, abs=1e-9)
    assert mixed_areas(ball).sum() == pytest.approx(measure.face_areas(ball).sum())


def test_mixed_areas_agree_with_libigl() -> None:
    """On meshes without blunt angles the mixed area is libigl's 'voronoi' mass."""
    ball = ops.geodesic_sphere(frequency=9)
    mass = igl.massmatrix(ball.positions, triangles_of(ball), igl.MASSMATRIX_TYPE_VORONOI)
    np.testing.assert_allclose(mixed_areas(ball), mass.diagonal(), rtol=1e-9)


def test_walks_agree_with_libigl_s_exact_ones(notes: list[Note]) -> None:
    """Within 2 % of libigl's exact geodesic distances, where the way is longer than a few edges."""
    ball = ops.displace(ops.geodesic_sphere(frequency=14), value="noise(position * 3, 2)", amount=0.3)
    begin = np.zeros(ball.topology.point_count, bool)
    begin[0] = True
    faces, none = triangles_of(ball), np.empty(0, np.int64)
    exact = igl.exact_geodesic(ball.positions, faces, np.array([0]), none, np.arange(ball.topology.point_count), none)
    ours = geodesic_distances(ball, begin)
    far = exact > 0.2
    assert np.abs(ours[far] / exact[far] - 1).mean() < 0.02
    assert np.abs(ours[far] / exact[far] - 1).max() < 0.08


def test_walks_on_a_plane_and_a_sphere() -> None:
    sheet = ops.grid(cells=(30, 30))
    begin = np.zeros(sheet.topology.point_count, bool)
    begin[480] = True
    np.testing.assert_allclose(
        geodesic_distances(sheet, begin), np.linalg.norm(sheet.positions - sheet.positions[480], axis=1), atol=1e-12
    )
    ball = ops.geodesic_sphere(radius=1.0, frequency=30)
    top = np.arange(ball.topology.point_count) == np.argmax(ball.positions[:, 1])
    around = np.arccos(np.clip(ball.positions @ ball.positions[top][0], -1, 1))
    np.testing.assert_allclose(geodesic_distances(ball, top), around, atol=0.03)


@pytest.mark.parametrize("count", [400, 1500])
def test_even_points_are_blue_noise(count: int) -> None:
    """A relative radius of 0.65 to 0.85 is that of a well spaced set: Lagae & Dutré, "A comparison of methods for
    generating Poisson disk distributions", Computer Graphics Forum 27(1), 2008, section 2.2."""
    made = ops.scatter(ops.grid(), total=count, arrangement="even")
    gap = cKDTree(made.positions).query(made.positions, k=2)[0][:, 1]
    assert 0.65 < gap.min() / (2 * np.sqrt(1 / (2 * np.sqrt(3) * count))) < 0.85


def test_random_points_fit_the_areas(bunny: Geo, notes: list[Note]) -> None:
    """Pearson's chi-square over 40 patches of the bunny, 20,000 points."""
    made = ops.scatter(bunny, total=20_000, seed=2)
    patch = np.arange(bunny.topology.face_count) * 40 // bunny.topology.face_count
    expected = np.bincount(patch, measure.face_areas(bunny))
    found = np.bincount(patch[made.attribute("point", "source_face")], minlength=40)
    assert chisquare(found, expected / expected.sum() * 20_000).pvalue > 0.01


def test_random_points_are_uniform_within_a_triangle() -> None:
    """A quarter of the points lies in each of the four triangles between the middles of the sides."""
    made = ops.scatter(Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 0, -1]], [[0, 1, 2]]), total=8000)
    weight = made.attribute("point", "source_weights")
    parts = [(weight[:, i] > 0.5).sum() for i in range(3)]
    assert chisquare([*parts, 8000 - sum(parts)]).pvalue > 0.01


def test_gradient_noise_is_bounded_smooth_and_0_on_its_lattice_alone() -> None:
    """Perlin 2002: 0 on the lattice (here off whole coordinates), second derivatives continuous, gradients of
    length sqrt 2 bound it by 1.
    """
    places = np.random.default_rng(1).uniform(-50, 50, (20_000, 3))
    one = np.ones(len(places), np.int64)
    values = noise.gradient_noise(places, one)
    assert np.abs(values).max() <= 1.0
    assert np.abs(values.mean()) < 0.01
    off = np.array([noise.OFF_X, noise.OFF_Y, noise.OFF_Z])
    np.testing.assert_allclose(noise.gradient_noise(np.round(places) - off, one), 0.0, atol=1e-13)
    assert noise.gradient_noise(np.round(places), one).std() > 0.2
    step = noise.gradient_noise(places + [1e-5, 0, 0], one)
    assert np.abs(step - values).max() < 1e-4
    across = np.floor(places) - off
    before, after = (noise.gradient_noise(across + [d, 0.37, 0.61], one) for d in (-1e-7, 1e-7))
    assert np.abs(after - before).max() < 1e-6


def test_cells_are_the_nearest_of_all_centres() -> None:
    """Worley 1996: the distance is 1-Lipschitz, and a cell's label is one number all over the cell."""
    places = np.random.default_rng(2).uniform(-5, 5, (4000, 3))
    ways = np.random.default_rng(3).normal(size=(4000, 3))
    ways *= 0.05 / np.linalg.norm(ways, axis=1, keepdims=True)
    a, b = noise.cellular(places), noise.cellular(places + ways)
    assert np.abs(a - b).max() <= 0.05 + 1e-12
    assert a.max() <= np.sqrt(3)
    labels = noise.cell_labels(places)
    assert len(np.unique(labels)) < 1600
    assert ((labels >= 0) & (labels < 1)).all()
