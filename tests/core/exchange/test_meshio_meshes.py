"""To meshio and back."""

from pathlib import Path

import meshio
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from tests.core.formats.shared.samples import shape_of


@given(seed=st.integers(0, 10**6))
def test_faces_of_every_size_lines_and_values_come_back(seed: int) -> None:
    rng = np.random.default_rng(seed)
    geo = shape_of(seed).with_attribute("point", "heat", rng.random(10)).with_attribute("face", "age", np.arange(3))
    with collecting():
        mesh = geo.to_meshio()
        back = Geo.from_meshio(mesh)
    assert [block.type for block in mesh.cells] == ["triangle", "quad", "polygon", "line"]
    assert np.array_equal(back.positions, geo.positions)
    assert np.array_equal(back.attribute("point", "heat"), geo.attribute("point", "heat"))
    assert back.attribute("face", "age").tolist() == [2, 0, 1]
    assert back.counts["curves"] == 2 + 3


def test_meshio_writes_what_it_is_given(tmp_path: Path, notes: list[Note]) -> None:
    ops.group(ops.box(), name="top", where="normal.y > 0.5").to_meshio().write(tmp_path / "a.vtu")
    again = Geo.from_meshio(meshio.read(tmp_path / "a.vtu"))
    assert again.attribute("face", "top").tolist().count(1) == 1


def test_cells_that_are_no_surface_are_left_out_with_a_note(notes: list[Note]) -> None:
    mesh = meshio.Mesh(
        np.eye(4, 3), [("tetra", [[0, 1, 2, 3]]), ("triangle", [[0, 1, 2]])], cell_data={"a": [[1], [2]]}
    )
    geo = Geo.from_meshio(mesh)
    assert geo.attribute("face", "a").tolist() == [2]
    assert "1 tetra" in notes[-1].text
