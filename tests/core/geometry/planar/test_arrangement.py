"""Triangles cut along segments that lie in them."""

import numpy as np
import pytest

from reticula.core.geometry.planar.arrangement import arrange_segments

TRIANGLE = np.array([[[0.0, 0, 0], [4, 0, 0], [0, 4, 0]]])


def area_of(parts) -> float:  # type: ignore[no-untyped-def]
    rows = [parts.place[a:b] for a, b in zip(parts.start, parts.start[1:], strict=False)]
    return sum(0.5 * np.linalg.norm(np.cross(row, np.roll(row, -1, axis=0)).sum(axis=0)) for row in rows)


def test_a_segment_across_makes_two_parts() -> None:
    parts = arrange_segments(TRIANGLE, np.array([0]), np.array([[[0.0, 1, 0], [3, 1, 0]]]), 4.0)
    assert len(parts.owner) == 2
    assert area_of(parts) == pytest.approx(8)


def test_a_closed_outline_inside_is_a_part_of_its_own() -> None:
    ring = np.array([[0.5, 0.5, 0], [1.5, 0.5, 0], [1.5, 1.5, 0], [0.5, 1.5, 0]])
    segments = np.stack([ring, np.roll(ring, -1, axis=0)], axis=1)
    parts = arrange_segments(TRIANGLE, np.zeros(4, int), segments, 4.0)
    assert area_of(parts) == pytest.approx(8)
    assert len(parts.owner) > 1


def test_a_segment_that_ends_inside_cuts_nothing_off() -> None:
    parts = arrange_segments(TRIANGLE, np.array([0]), np.array([[[0.5, 0.5, 0], [1.0, 1.0, 0]]]), 4.0)
    assert area_of(parts) == pytest.approx(8)
