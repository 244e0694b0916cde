"""Where the nodes of a glTF stand."""

import numpy as np
import pytest

from reticula.core.formats.gltf.container import Document
from reticula.core.formats.gltf.placements import placements_of


def placed(*nodes: dict, roots: list[int] | None = None) -> list:
    told: dict = {"nodes": list(nodes), "meshes": [{}]}
    if roots is not None:
        told["scenes"] = [{"nodes": roots}]
    return placements_of(Document(told, ()))


def test_places_follow_each_other_from_the_root_down() -> None:
    half = np.sqrt(0.5)
    (one,) = placed(
        {"children": [1], "translation": [10, 0, 0], "rotation": [0, half, 0, half]},
        {"mesh": 0, "translation": [0, 0, 2], "scale": [1, 2, 3]},
    )
    assert one.matrices[0] @ [0, 1, 1, 1] == pytest.approx([10 + 5, 2, 0, 1])


def test_matrices_are_given_by_columns() -> None:
    (one,) = placed({"mesh": 0, "matrix": [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 4, 5, 6, 1]})
    assert one.matrices[0, :3, 3].tolist() == [4, 5, 6]


def test_only_the_scene_is_shown_and_all_roots_without_one() -> None:
    assert len(placed({"mesh": 0}, {"mesh": 0}, roots=[1])) == 1
    assert len(placed({"mesh": 0}, {"mesh": 0, "children": [2]}, {"mesh": 0})) == 3


def test_our_instances_bring_their_values() -> None:
    (one,) = placed({"mesh": 0, "extras": {"reticula": {"instance": {"age": ["integer", 7], "kind": ["text", "fan"]}}}})
    assert one.instance
    assert {name: found.values.tolist() for name, found in one.values.items()} == {"age": [7], "kind": ["fan"]}
