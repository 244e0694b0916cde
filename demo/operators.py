"""The operators of the demo: ``python -m demo.operators`` publishes them into packages beside this file.

``packages/`` is imported when the demo is loaded, ``depot/`` is what the depot has at first. Both are made from the
demo graphs by folding, as an artist does it: choose cards, fold, drag parameters onto the dials, publish.
"""

from __future__ import annotations

import hashlib
import json
from pathlib import Path
from typing import Any

from demo.coral_rounds import coral_rounds
from demo.settlement_tile import settlement_tile
from reticula.bundle import demo_shapes
from reticula.core import Geo
from reticula.core.graph.editing import fold, make_dial, rename_port
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import prepare, write_package
from reticula.core.packages.definition import content_name

__all__ = ["HERE", "publish_growth", "publish_tile", "tile_library"]

HERE = Path(__file__).parent
SCAN = HERE / "survey_scan.ply"


def tile_operator() -> dict[str, Any]:
    """Return the settlement tile's graph with all but the scan folded into one card with five dials."""
    graph = settlement_tile()
    graph["nodes"] = {"survey": graph["nodes"].pop("survey"), **graph["nodes"]}
    folded, name = fold(graph, [key for key in graph["nodes"] if key != "survey"], "Settlement tile")
    folded["looking_at"] = folded["result"] = name
    folded = rename_port(folded, name, "inputs", folded["nodes"][name]["graph"]["inputs"][0]["name"], "survey")
    folded, _ = make_dial(folded, name, "smooth", "levels", "smoothness")
    inner = folded["nodes"][name]["graph"]
    inner["inputs"][0] |= {
        "help": "scan of the sea floor; cover and colour are carried from it",
        "expects": [{"what": "attribute", "kind": "point", "name": "cover"}],
    }
    inner["outputs"][0]["help"] = "the tile, with the groups ridges, crest, wall and niches"
    inner["contracts"] = [{"what": "closed"}, {"what": "attribute", "kind": "point", "name": "cover"}]
    for dial in ("ridge_height", "ridge_share", "ridge_density"):
        inner["dials"][dial]["section"] = "Ridges"
    inner["dials"]["rim_width"]["section"] = inner["dials"]["smoothness"]["section"] = "Plate"
    inner["dials"]["smoothness"] |= {"value": 1, "soft": [0, 2], "low": 0, "high": 3, "help": "rounds of smoothing"}
    inner["presets"] = {
        "low and wide": {"ridge_height": 0.012, "ridge_share": 0.3, "ridge_density": 9.0},
        "tall and fine": {"ridge_height": 0.03, "ridge_share": 0.16, "ridge_density": 24.0},
    }
    for key in list(folded["nodes"][name]["parameters"]):
        del folded["nodes"][name]["parameters"][key]
    return folded


def publish_tile() -> tuple[str, dict[str, Any], dict[str, tuple[str, bytes]]]:
    """Return the tile's key, its definition, and the shapes that go along."""
    data = SCAN.read_bytes()
    digest = hashlib.sha256(data).hexdigest()
    name = content_name("survey_scan", digest)
    shapes = DiskResources({"survey_scan": Geo.read(SCAN), name: Geo.read(SCAN)})
    about = {
        "name": "settlement_tile",
        "release": "1.0.0",
        "title": "Settlement tile",
        "tags": ["tile", "ceramic", "larvae"],
        "summary": "Ceramic tile for coral larvae, with ridges that give shade and grip",
        "help": "Connect a survey scan: its cover and colour are carried onto the tile, and the walls of the "
        "ridges where cover is "
        "high become the group niches.\n\nRidges wind along a noise. Turn ridge share first, then "
        "height: where ridges are few "
        "they stand on their own, where they are many they join to a maze. Keep the rim at 15 mm at "
        "least, for the clamps.",
    }
    stored = {"survey_scan": (name, {"file_name": SCAN.name, "sha256": digest})}
    made = prepare(tile_operator(), "", "settlement_tile", about, shapes=shapes, stored=stored).definition
    return "settlement_tile@1.0.0", made, {name: (SCAN.name, data)}


def tile_library() -> tuple[MemoryLibrary, DiskResources]:
    """Return a library with the tile, and its shapes and those that demos use."""
    key, definition, shapes = publish_tile()
    stored = {name: Geo.read(path) for name, path in demo_shapes().items()}
    return MemoryLibrary({key: definition}), DiskResources({name: Geo.read(SCAN) for name in shapes} | stored)


def publish_growth() -> tuple[str, dict[str, Any], dict[str, tuple[str, bytes]]]:
    """Return the rounds of growth as an operator."""
    graph = coral_rounds()
    folded, name = fold(graph, ["rounds", "soften"], "Growth")
    about = {
        "name": "growth",
        "release": "1.0.0",
        "title": "Growth",
        "tags": ["coral", "branching", "random"],
        "summary": "Buds on a surface, grown in rounds",
        "help": "Each round marks some faces at random, raises them and splits what was raised, so that "
        "later rounds grow on "
        "earlier ones. Another seed grows another colony.",
    }
    inner = folded["nodes"][name]["graph"]
    inner["inputs"][0] |= {"help": "surface to grow on"}
    return "growth@1.0.0", prepare(folded, "", name, about).definition, {}


def main() -> None:
    for folder, (key, definition, shapes) in (("packages", publish_tile()), ("depot", publish_growth())):
        picture = HERE / "pictures" / f"{definition['name']}.png"
        pictures = {key: picture.read_bytes()} if picture.exists() else {}
        (HERE / folder).mkdir(exist_ok=True)
        data = write_package(key, {key: definition}, shapes, pictures)
        (HERE / folder / f"{key.replace('@', '-')}.zip").write_bytes(data)
        print(key, len(data), json.dumps(list(definition["graph"]["dials"])))


if __name__ == "__main__":
    main()
