"""The demo's operators and graphs: the packages are those that the code makes, and everything in them runs."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from demo.operators import HERE, publish_growth, publish_tile, tile_library
from reticula.core import Geo, load_package, ops
from reticula.core.graph import Evaluator, check_structure

GRAPHS = sorted(path.stem for path in HERE.glob("*.json"))


def without_digests(definition: dict[str, Any]) -> dict[str, Any]:
    """A definition without what may differ in the last bits between machines."""
    copy: dict[str, Any] = json.loads(json.dumps(definition))
    for example in copy["examples"]:
        for output in example["expected"].values():
            for key in ("digest", "bounds", "means"):
                output.pop(key)
    return copy


@pytest.mark.parametrize(("folder", "make"), [("packages", publish_tile), ("depot", publish_growth)])
def test_packages_are_what_the_code_makes(folder: str, make: Any) -> None:
    key, definition, _ = make()
    package = load_package(HERE / folder / f"{key.replace('@', '-')}.zip")
    assert without_digests(package.definitions[key]) == without_digests(definition)
    assert package.pictures[key].startswith(b"\x89PNG")


def test_the_tile_has_five_dials_and_keeps_its_promises() -> None:
    tile = load_package(HERE / "packages" / "settlement_tile-1.0.0.zip")
    assert list(tile.operator.graph["dials"]) == [
        "ridge_density",
        "ridge_share",
        "rim_width",
        "ridge_height",
        "smoothness",
    ]
    low, high = (tile(Geo.read(HERE / "survey_scan.ply"), ridge_height=height) for height in (0.01, 0.04))
    assert high.bounds[1, 1] > low.bounds[1, 1] + 0.02
    assert not low.topology.border_edges.any()
    assert ops.set_attribute(low, name="check", value="cover").has("point", "check")


@pytest.mark.parametrize("name", GRAPHS)
def test_every_demo_graph_runs(name: str) -> None:
    document = check_structure(json.loads(Path(HERE / f"{name}.json").read_text()))
    library, shapes = tile_library()
    done = Evaluator().evaluate(document, targets=[*document["nodes"]], shapes=shapes, operators=library)
    assert {key: result.error for key, result in done.nodes.items() if result.state != "done"} == {}
