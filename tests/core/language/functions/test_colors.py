"""Colours beside Python's colorsys, and luminance by ITU-R BT.709."""

import colorsys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language.functions.colors import LUMA
from tests.core.language.functions.check import value

SHARE = st.floats(0, 1)


@given(SHARE, SHARE, SHARE)
def test_hsv_is_colorsys_s(h: float, s: float, v: float) -> None:
    assert value("hsv(h, s, v)", h=h, s=s, v=v) == pytest.approx(colorsys.hsv_to_rgb(h, s, v), abs=1e-9)


def test_hues_go_round() -> None:
    assert value("hsv(1.25, 1, 1)") == pytest.approx(value("hsv(0.25, 1, 1)"))
    assert value("hsv(-0.75, 1, 1)") == pytest.approx(value("hsv(0.25, 1, 1)"))


def test_luminance_weights() -> None:
    """ITU-R BT.709-6, item 3.2: 0.2126 R + 0.7152 G + 0.0722 B."""
    assert sum(LUMA) == pytest.approx(1)
    found = [float(value(f"luminance({color})")) for color in ("(1, 0, 0)", "(0, 1, 0)", "(0, 0, 1)")]
    assert found == pytest.approx([0.2126, 0.7152, 0.0722])
    assert value("luminance((1, 1, 1, 0.5))") == pytest.approx(1), "how opaque it is does not matter"
