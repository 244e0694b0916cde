"""Packages of every released form open for ever: one of each is kept here, and never changed."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core import load_package, ops

SAMPLES = sorted((Path(__file__).parent / "samples").glob("*.zip"))


@pytest.mark.parametrize("file", SAMPLES, ids=[path.stem for path in SAMPLES])
def test_a_kept_package_does_what_it_did(file: Path) -> None:
    lift = load_package(file)
    assert lift.main == "lift@1.0.0"
    assert lift(ops.box(), height=2.0).bounds.tolist() == [[-0.5, 1.5, -0.5], [0.5, 2.5, 0.5]]
