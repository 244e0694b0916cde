"""Shapes by name and files by path: found, keyed by their content, and what is said of what is not there."""

from pathlib import Path

import pytest

from reticula.core import Geo, ops
from reticula.core.context import using
from reticula.core.errors import GeometryError
from reticula.core.operators.shared.resources import DiskResources, resources


def test_a_key_follows_the_content(tmp_path: Path, cube: Geo) -> None:
    cube.write(tmp_path / "a.ply")
    disk = DiskResources(folder=tmp_path)
    before = disk.key("a.ply")
    assert disk.key("a.ply") == before
    ops.grid().write(tmp_path / "a.ply")
    assert disk.key("a.ply") != before
    assert disk.load("a.ply").counts["faces"] == 100


def test_a_name_wins_over_a_file(tmp_path: Path, cube: Geo) -> None:
    disk = DiskResources({"reef": cube}, tmp_path)
    assert disk.load("reef") is cube
    assert disk.key("reef") == cube.digest


def test_what_is_not_there(tmp_path: Path, cube: Geo) -> None:
    with pytest.raises(GeometryError, match=r"no shape or file 'sand' \(given by name: reef\).*--in sand=FILE"):
        DiskResources({"reef": cube}, tmp_path).load("sand")


def test_those_of_the_context_are_used(cube: Geo) -> None:
    mine = DiskResources({"reef": cube})
    with using(resources=mine):
        assert resources() is mine
    assert isinstance(resources(), DiskResources)
