"""Damaged files are read or refused in words: none ends, holds up or fills the process that reads it."""

from __future__ import annotations

import os
from collections import Counter

import pytest

from reticula.core.formats import FORMATS
from tests.core.formats.damage import hunt

COUNT = 20_000 if os.environ.get("HYPOTHESIS_PROFILE") == "campaign" else 500


@pytest.mark.parametrize("ending", FORMATS)
def test_damaged_files(ending: str) -> None:
    found = hunt(ending, COUNT)
    assert found.faults == []
    assert found.answers["refused"] + found.answers["gave up"] > COUNT / 100
    assert found.answers["gave up"] < COUNT / 20
    assert sum(found.answers.values()) == COUNT


def test_the_same_seed_damages_in_the_same_way() -> None:
    made: list[Counter[str]] = [hunt("off", 50, seed).answers for seed in (1, 1, 2)]
    assert made[0] == made[1]
