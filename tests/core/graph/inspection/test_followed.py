"""What a table would give a dial, for whoever sets that up."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.context import using
from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.inspection.followed import sample_followed
from tests.core.graph.evaluation.test_following_tables import FOLLOWS, WATER, tide, waters


def sampled(dial: dict[str, Any]) -> dict[str, Any]:
    with using(resources=tide()):
        return sample_followed(waters(), "water", dial, np.array([0.0, 6.0, 12.0]))


def test_rows_values_over_frames_and_what_does_not_fit_are_told() -> None:
    found = sampled(WATER)
    assert (found["rows"], found["first"], found["last"], found["said"]) == (3, 0.0, 2.0, [])
    assert (found["samples"], found["trouble"]) == ([[1.0], [2.0], [3.0]], "")
    assert "2.9" in sampled({**WATER, "high": 2.9})["trouble"]


def test_yes_or_no_has_no_curve() -> None:
    found = sampled({"type": "toggle", "value": {**FOLLOWS, "otherwise": False}})
    assert found["samples"] is None


def test_what_is_no_dial_or_follows_nothing_is_refused() -> None:
    with pytest.raises(GraphError, match="'value' is a required property"):
        sampled({"type": "number"})
    with pytest.raises(ParameterError, match="follows no table"):
        sampled({"type": "number", "value": 1.0})
