"""The language against the world outside: Python's `math` and `statistics`, definitions of GLSL 4.60 (Khronos), ITU-R
BT.709,
Python's `colorsys`, SciPy's rotations, NumPy's linear algebra, a textbook's Laplacian.
"""

from __future__ import annotations

import colorsys
import math
import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.language import evaluate_once
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted

SMALL = st.floats(-50, 50).map(lambda x: round(x, 6))
UNIT = st.floats(-1, 1).map(lambda x: round(x, 6))
VECTOR = st.tuples(SMALL, SMALL, SMALL)


def number(source: str, **values: object) -> float:
    return float(evaluate_once(source, "number", values))


def vector(source: str, **values: object) -> list[float]:
    return list(evaluate_once(source, "vec3", values))


@pytest.mark.parametrize(
    "name",
    [
        "sin",
        "cos",
        "tan",
        "atan",
        "sinh",
        "cosh",
        "tanh",
        "asinh",
        "exp",
        "expm1",
        "degrees",
        "radians",
        "floor",
        "ceil",
        "trunc",
        "fabs",
    ],
)
@given(x=st.floats(-20, 20))
def test_python_math_over_all_numbers(name: str, x: float) -> None:
    ours = "abs" if name == "fabs" else name
    assert number(f"{ours}(x)", x=x) == pytest.approx(float(getattr(math, name)(x)), rel=1e-12, abs=1e-300)


@pytest.mark.parametrize("name", ["sqrt", "cbrt", "log", "log2", "log10", "log1p"])
@given(x=st.floats(1e-6, 1e6))
def test_python_math_over_positive_numbers(name: str, x: float) -> None:
    assert number(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x), rel=1e-12, abs=1e-15)


@pytest.mark.parametrize("name", ["asin", "acos", "atanh", "acosh"])
@given(x=UNIT)
def test_python_math_over_its_own_range(name: str, x: float) -> None:
    x = abs(x) + 1 if name == "acosh" else x * 0.999
    assert number(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x), rel=1e-12, abs=1e-15)


@given(x=SMALL, y=SMALL)
def test_python_math_of_two(x: float, y: float) -> None:
    for name in ("atan2", "hypot", "copysign"):
        assert number(f"{name}(x, y)", x=x, y=y) == pytest.approx(getattr(math, name)(x, y), rel=1e-12)
    if y:
        assert number("x // y", x=x, y=y) == x // y
        assert number("x % y", x=x, y=y) == pytest.approx(x % y, abs=1e-12)


@given(a=st.integers(-(10**9), 10**9), b=st.integers(-1000, 1000))
def test_whole_numbers_are_pythons(a: int, b: int) -> None:
    got = lambda text: evaluate_once(text, "integer", {"a": a, "b": b})  # noqa: E731
    assert (got("a + b"), got("a - b"), got("a * b")) == (a + b, a - b, a * b)
    if b:
        assert (got("a // b"), got("a % b")) == (a // b, a % b)


@given(values=st.lists(SMALL, min_size=1, max_size=9))
def test_python_statistics(values: list[float]) -> None:
    text = f"[{', '.join(map(repr, [0.5, *values, 0.25, 1.5, 7.0]))}]"
    given = [0.5, *values, 0.25, 1.5, 7.0]
    assert number(f"mean({text})") == pytest.approx(statistics.fmean(given))
    assert number(f"median({text})") == pytest.approx(statistics.median(given))
    assert number(f"deviation({text})") == pytest.approx(statistics.pstdev(given))
    assert number(f"sum({text})") == pytest.approx(math.fsum(given), abs=1e-9)
    assert (number(f"min({text})"), number(f"max({text})")) == (min(given), max(given))


@given(v=VECTOR, n=VECTOR, ratio=st.floats(0.3, 1.6))
def test_glsl_reflect_refract_and_faceforward(v: tuple[float, ...], n: tuple[float, ...], ratio: float) -> None:
    """GLSL 4.60, 8.5: reflect = I - 2 dot(N, I) N; refract with k = 1 - eta^2 (1 - dot(N, I)^2); faceforward by
    dot(Nref, I).
    """
    if min(np.linalg.norm(v), np.linalg.norm(n)) < 1e-3:
        return
    i, m = np.array(v) / np.linalg.norm(v), np.array(n) / np.linalg.norm(n)
    along = m @ i
    values = {"v": i.tolist(), "n": m.tolist(), "r": ratio}
    assert vector("reflect(v, n)", **values) == pytest.approx((i - 2 * along * m).tolist(), abs=1e-12)
    k = 1 - ratio**2 * (1 - along**2)
    if abs(k) > 1e-9:
        bent = np.zeros(3) if k < 0 else ratio * i - (ratio * along + math.sqrt(k)) * m
        assert vector("refract(v, n, r)", **values) == pytest.approx(bent.tolist(), abs=1e-10)
    if abs(along) > 1e-9:
        assert vector("faceforward(n, v, n)", **values) == pytest.approx((m if along < 0 else -m).tolist())


@given(v=VECTOR, axis=VECTOR, angle=st.floats(-6, 6))
def test_turns_are_scipys(v: tuple[float, ...], axis: tuple[float, ...], angle: float) -> None:
    if np.linalg.norm(axis) < 1e-3:
        return
    turned = Rotation.from_rotvec(np.array(axis) / np.linalg.norm(axis) * angle).apply(v)
    values = {"v": v, "axis": axis, "angle": angle}
    assert vector("rotate(v, axis, angle)", **values) == pytest.approx(turned.tolist(), abs=1e-9)
    assert vector("turn(axis, angle) * v", **values) == pytest.approx(turned.tolist(), abs=1e-9)


@given(rows=st.lists(VECTOR, min_size=3, max_size=3), v=VECTOR)
def test_matrices_are_numpys(rows: list[tuple[float, ...]], v: tuple[float, ...]) -> None:
    m = np.array(rows)
    text = f"mat3({', '.join(str(row) for row in rows)})"
    assert number(f"determinant({text})") == pytest.approx(np.linalg.det(m), rel=1e-9, abs=1e-6)
    assert vector(f"{text} * v", v=v) == pytest.approx((m @ v).tolist(), rel=1e-9, abs=1e-6)
    assert vector(f"transpose({text}) * v", v=v) == pytest.approx((m.T @ v).tolist(), rel=1e-9, abs=1e-6)
    if abs(np.linalg.det(m)) > 1e-2 and np.linalg.cond(m) < 1e6:
        assert vector(f"inverse({text}) * v", v=v) == pytest.approx(np.linalg.solve(m, v).tolist(), rel=1e-6, abs=1e-6)


@given(h=st.floats(0, 0.999), s=st.floats(0, 1), v=st.floats(0, 1))
def test_hues_are_colorsys(h: float, s: float, v: float) -> None:
    assert vector("hsv(h, s, v)", h=h, s=s, v=v) == pytest.approx(colorsys.hsv_to_rgb(h, s, v), abs=1e-12)


def test_luminance_has_the_weights_of_the_standard() -> None:
    """ITU-R BT.709-6, item 3.2: E'Y = 0.2126 R + 0.7152 G + 0.0722 B."""
    assert [number(f"luminance({c})") for c in ("(1, 0, 0)", "(0, 1, 0)", "(0, 0, 1)")] == [0.2126, 0.7152, 0.0722]


def test_neighbour_averaging_on_a_ring_decays_as_the_textbook_says() -> None:
    """The umbrella operator on a closed ring: a wave of frequency k is scaled by cos(2 pi k / n) in every round.

    Taubin, "A signal processing approach to fair surface design", SIGGRAPH 1995, section 3: eigenvalues of the
    averaging matrix.
    """
    count, waves, rounds = 24, 3, 5
    angle = 2 * np.pi * np.arange(count) / count
    inner = np.stack([np.cos(angle), np.zeros(count), np.sin(angle)], axis=1)
    ring = Geo.from_faces(inner, [list(range(count))])
    ring = ring.with_attribute("point", "wave", np.cos(waves * angle))
    with collecting():
        for run in (
            lambda g: run_script(g, "here.wave = mean(here.neighbours.wave)", backend="vector"),
            lambda g: run_interpreted(
                g,
                "total = 0.0\nfor p in here.neighbours:\n    total += p.wave\nhere.wave = total / len(here.neighbours)",
            ),
        ):
            smooth = ring
            for _ in range(rounds):
                smooth = run(smooth)
            decay = math.cos(2 * math.pi * waves / count) ** rounds
            np.testing.assert_allclose(smooth.attribute("point", "wave"), decay * np.cos(waves * angle), atol=1e-12)


def test_marching_along_distances_finds_the_sphere() -> None:
    """Sphere tracing: steps by the distance end on the surface, where a ray does. Hart, "Sphere tracing", 1996."""
    ball = ops.geodesic_sphere(radius=1.0, frequency=40)
    sheet = ops.transform(ops.grid(size=(1, 1), cells=(8, 8)), move=(0, 3, 0))
    text = """ball: geometry
p = position
for i in range(200):
    far = ball.closest(p).distance
    if far < 1e-9:
        break
    p.y -= far
here.march = p.y
here.cast = ball.ray(position, (0, -1, 0)).position.y
"""
    with collecting():
        made = run_script(sheet, text, inputs={"ball": ball}, backend="vector")
    np.testing.assert_allclose(made.attribute("point", "march"), made.attribute("point", "cast"), atol=1e-6)
