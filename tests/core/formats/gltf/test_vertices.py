"""Vertices are shared wherever their values are the same."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.formats.gltf.vertices import blocks_of


def test_a_sheet_has_as_many_vertices_as_points_while_its_uv_run_on() -> None:
    (block,) = blocks_of(ops.grid(cells=(4, 4)))
    assert len(block.places) == 25
    assert block.values["TEXCOORD_0"].dtype == np.float32


def test_a_box_is_split_where_its_uv_break() -> None:
    bare = Geo.of(ops.box().positions, ops.box().topology)
    assert len(blocks_of(bare)[0].places) == 8
    seam = np.repeat(np.arange(6), 4).astype(float)
    split = bare.with_attribute("corner", "uv", np.stack([seam, seam], axis=1))
    assert len(blocks_of(split)[0].places) == 24


def test_faces_curves_and_loose_points_have_vertices_of_their_own(mixed: Geo) -> None:
    modes = [block.parts[0].mode for block in blocks_of(mixed)]
    assert modes == [4, 1, 0]
    assert len(blocks_of(mixed)[2].places) == 1


def test_nothing_has_no_vertices() -> None:
    assert blocks_of(Geo.empty()) == []
