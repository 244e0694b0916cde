"""Whoever reads a large file is told how far it is."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core import Geo, ops
from reticula.core.context import using
from reticula.core.formats.shared import told


@pytest.mark.parametrize("ending", ["ply", "stl", "obj"])
def test_shares_grow(tmp_path: Path, ending: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(told, "PIECE", 1000)
    ops.sphere().write(tmp_path / f"a.{ending}")
    heard: list[float] = []
    with using(on_read=heard.append):
        made = Geo.read(tmp_path / f"a.{ending}")
    assert made.topology.face_count > 0
    assert len(heard) > 3
    assert heard == sorted(heard)
    assert max(heard) < 1.0


def test_a_small_file_and_nobody_who_listens(tmp_path: Path) -> None:
    (tmp_path / "a").write_bytes(b"reef")
    assert told.content_of(tmp_path / "a", 4) == b"reef"
    told.told(0.5)
