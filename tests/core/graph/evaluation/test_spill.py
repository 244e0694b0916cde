"""Results on disk."""

from __future__ import annotations

import pickle
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import Geo
from reticula.core.graph import Cache, Evaluator
from reticula.core.graph.evaluation import cache
from reticula.core.graph.evaluation import spill as module
from reticula.core.graph.evaluation.cache import Entry
from reticula.core.graph.evaluation.spill import SpillFiles
from tests.core.graph.building import graph, node

MEGABYTE = 1024**2


def rich() -> Geo:
    """A shape with all that a shape can have."""
    sheet = ops.extrude(ops.grid(cells=(3, 3)), where="index < 4", distance=0.2, together=False)
    sheet = sheet.with_attribute("face", "word", [f"n{n}" for n in range(sheet.topology.face_count)])
    placed = ops.place_instances(ops.scatter(sheet, total=5), ops.box())
    return ops.join(sheet, placed, ops.circle())


def test_a_shape_comes_back_as_it_was_mapped_and_read_only(tmp_path: Path) -> None:
    files, shape = SpillFiles(tmp_path / "kept", 50 * MEGABYTE), rich()
    assert files.put("a", Entry((shape,), (), 1.0))
    back = files.get("a").outputs[0]
    assert back.digest == shape.digest
    for kind in ("point", "edge", "corner", "face", "curve", "instance"):
        np.testing.assert_array_equal(back.identity(kind), shape.identity(kind))
    assert not back.positions.flags.writeable
    assert ops.triangulate(back).digest == ops.triangulate(shape).digest
    assert files.get("b") is None


def test_shapes_are_copied_by_pickle_without_what_was_worked_out() -> None:
    shape = rich()
    plain = len(pickle.dumps(shape))
    assert shape.topology.edges.size
    assert ops.measure(shape).digest
    assert len(pickle.dumps(shape)) == plain
    assert pickle.loads(pickle.dumps(shape)).digest == shape.digest


def test_those_that_were_not_read_for_the_longest_time_go_first(tmp_path: Path) -> None:
    files = SpillFiles(tmp_path / "kept", 3 * MEGABYTE)
    for name in "abc":
        assert files.put(name, np.zeros(MEGABYTE - 4096, np.uint8))
    files.get("a")
    assert files.put("d", np.zeros(MEGABYTE - 4096, np.uint8))
    assert [name in files for name in "abcd"] == [True, False, True, True]
    assert sorted(path.name for path in files.folder.iterdir()) == ["a", "c", "d"]
    assert not files.put("e", np.zeros(4 * MEGABYTE, np.uint8))


def test_a_full_disk_and_a_file_that_is_gone_lose_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    files = SpillFiles(tmp_path / "kept", MEGABYTE)
    files.put("a", np.zeros(100))
    (files.folder / "a").unlink()
    assert files.get("a") is None
    assert "a" not in files
    files.put("c", np.zeros(100))
    (files.folder / "c").write_bytes(b"nothing that was written")
    assert files.get("c") is None
    assert "c" not in files
    monkeypatch.setattr(module, "ROOM", 10**18)
    assert not files.put("b", np.zeros(100))


def test_the_folder_is_emptied_when_it_is_opened(tmp_path: Path) -> None:
    SpillFiles(tmp_path / "kept", MEGABYTE).put("a", 1)
    assert len(SpillFiles(tmp_path / "kept", MEGABYTE)) == 0
    assert not list((tmp_path / "kept").iterdir())


def chain() -> dict[str, Any]:
    return graph(
        {
            "ball": node("sphere", segments=200, rings=100),
            "moved": node("script", "ball", source="here.position = position + vec3(0, frame, 0)"),
        }
    )


def test_frames_that_have_no_room_in_memory_come_from_disk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(cache, "READ", 1e15)
    spill = SpillFiles(tmp_path / "kept", 500 * MEGABYTE)
    evaluator = Evaluator(Cache(3 * MEGABYTE, spill))
    digests = {}
    for frame in range(12):
        done = evaluator.evaluate(chain(), frame=frame)
        digests[frame] = done.geo("moved").digest
    assert len(spill) > 2
    back = {frame: evaluator.evaluate(chain(), frame=frame) for frame in range(12)}
    assert {frame: done.geo("moved").digest for frame, done in back.items()} == digests
    assert all(done.nodes["moved"].cached for done in back.values())
    assert evaluator.cache.bytes <= 3 * MEGABYTE


def test_what_is_made_faster_than_read_is_not_kept_on_disk(tmp_path: Path) -> None:
    spill = SpillFiles(tmp_path / "kept", 500 * MEGABYTE)
    kept = Cache(100_000, spill)
    kept.put("cheap", Entry((ops.grid(cells=(40, 40)),), (), 1e-6))
    kept.put("dear", Entry((ops.grid(cells=(41, 41)),), (), 3.0))
    kept.put("last", Entry((ops.grid(cells=(42, 42)),), (), 5.0))
    assert "cheap" not in spill
    assert "dear" in kept
