"""How values are spread: numbers, vectors, groups, words, lists, and what is no number."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ReticulaError
from reticula.workers.buffers import BufferFiles
from tests.workers.asking import look


def spreads(geo: Geo, kind: str, **more: Any) -> dict[tuple[str, int], dict[str, Any]]:
    told = look(geo, {"what": "statistics", "kind": kind, **more}, BufferFiles(Path("/nowhere")))["kinds"][kind]
    return {(one["name"], one["part"]): one for one in told}


def test_numbers_have_range_mean_deviation_and_bins() -> None:
    sheet = ops.set_attribute(ops.grid(cells=(4, 1)), name="heat", kind="face", value="index")
    heat = spreads(sheet, "face")["heat", -1]
    assert (heat["low"], heat["high"], heat["mean"], heat["count"], heat["bad"]) == (0, 3, 1.5, 4, 0)
    assert heat["deviation"] == pytest.approx(np.std([0, 1, 2, 3]))
    assert sum(heat["bins"]) == 4
    assert (heat["bins"][0], heat["bins"][-1]) == (1, 1)
    assert spreads(sheet, "face")["area", -1]["bins"] == [], "the same everywhere"


def test_vectors_are_told_part_by_part_and_filters_count() -> None:
    sheet = ops.grid(cells=(4, 4))
    told = spreads(sheet, "point")
    assert [told["position", part]["high"] for part in range(3)] == [0.5, 0.0, 0.5]
    half = spreads(sheet, "point", where="position.x > 0")
    assert half["position", 0]["low"] == 0.25
    assert half["position", 0]["count"] == 10
    with pytest.raises(ReticulaError, match="nonsense"):
        spreads(sheet, "point", where="nonsense > 1")


def test_groups_words_and_what_is_no_number() -> None:
    sheet = ops.group(ops.grid(cells=(4, 1)), name="low", where="index < 1")
    sheet = sheet.with_attribute("face", "label", np.array(["a", "b", "b", ""]))
    sheet = sheet.with_attribute("face", "odd", np.array([1.0, np.nan, np.inf, 3.0]))
    told = spreads(sheet, "face")
    assert (told["low", -1]["members"], told["low", -1]["count"]) == (1, 4)
    assert told["label", -1]["words"] == 3
    assert told["label", -1]["most"][0] == {"word": "b", "count": 2}
    assert (told["odd", -1]["bad"], told["odd", -1]["mean"]) == (2, 2.0)


def test_a_range_may_be_as_narrow_as_numbers_are() -> None:
    values = np.array([1.0, np.nextafter(1.0, 2.0)])
    sheet = ops.grid(cells=(2, 1)).with_attribute("face", "near", values)
    told = spreads(sheet, "face")["near", -1]
    assert (told["bins"][0], told["bins"][-1]) == (1, 1)


def test_a_kind_without_elements_has_no_range() -> None:
    told = look(ops.line(), {"what": "statistics"}, BufferFiles(Path("/nowhere")))["kinds"]
    assert set(told) == {"point", "edge", "corner", "face", "curve", "instance", "whole"}
    assert "low" not in next(one for one in told["face"] if one["name"] == "area")
