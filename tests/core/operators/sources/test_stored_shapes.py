"""Files and shapes of the project as sources."""

from pathlib import Path

import pytest

from reticula.core import Geo, ops
from reticula.core.context import using
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.operators.shared.resources import DiskResources


def test_read_file_turns_and_scales(tmp_path: Path, cube: Geo, notes: list[Note]) -> None:
    ops.transform(cube, move=(0, 0, 5)).write(tmp_path / "a.ply")
    with using(resources=DiskResources(folder=tmp_path)):
        made = ops.read_file(file="a.ply", up="z", scale=0.001)
        assert made.bounds[1] == pytest.approx([0.001, 0.006, 0.001])
        assert ops.project_shape(shape="a.ply").counts == cube.counts
    with using(resources=DiskResources({"reef": cube})):
        assert ops.project_shape(shape="reef") is cube
        with pytest.raises(GeometryError, match=r"no shape or file 'sand' \(given by name: reef\)"):
            ops.project_shape(shape="sand")
    with pytest.raises(ParameterError, match="choose a file"):
        ops.read_file()


def test_bows_of_drawings_keep_within_the_error(tmp_path: Path) -> None:
    (tmp_path / "a.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><circle r="96" cx="0" cy="0"/></svg>')
    with using(resources=DiskResources(folder=tmp_path)):
        coarse, fine = (ops.project_shape(shape="a.svg", error=error) for error in (0.001, 0.00001))
        assert fine.topology.point_count > 5 * coarse.topology.point_count
        assert ops.read_file(file="a.svg", error=0.00001).digest == fine.digest
