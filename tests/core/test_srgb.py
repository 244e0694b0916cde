"""Colours between sRGB and linear light."""

import numpy as np
import pytest

from reticula.core.srgb import from_bytes, to_bytes, to_linear, to_srgb


def test_the_curve_has_the_values_of_the_standard() -> None:
    """IEC 61966-2-1: 0.04045 is where the straight part ends; 0.5 becomes 0.214 (from memory)."""
    assert to_linear(np.array([0.0, 0.04045, 0.5, 1.0])) == pytest.approx([0, 0.04045 / 12.92, 0.21404114, 1])


def test_both_ways_give_the_same() -> None:
    values = np.linspace(0, 1, 101)
    assert to_srgb(to_linear(values)) == pytest.approx(values)
    codes = np.arange(256, dtype=np.uint8).repeat(4).reshape(-1, 4)
    assert np.array_equal(to_bytes(from_bytes(codes)), codes)
    assert from_bytes(np.array([[65535, 0, 0]], np.uint16)).tolist() == [[1, 0, 0, 1]]


def test_what_is_too_bright_is_brought_back() -> None:
    assert to_bytes(np.array([[2.0, -1.0, 0.5, 3.0]])).tolist() == [[255, 0, 188, 255]]
