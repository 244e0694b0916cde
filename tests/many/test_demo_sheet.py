"""The proof sheet that comes with the demo is one of its graph as it is, and says what that makes."""

from __future__ import annotations

import json
import zipfile

import pytest

from reticula.bundle import DEMO, demo_shapes
from reticula.launch.demo import FIRST
from reticula.many.cluster import Cluster
from reticula.many.sheet import Plan, Sheet
from tools.demo_sheet import PLAN, TITLE


def test_the_sheet_of_the_settlement_tile_is_what_its_graph_makes(cluster: Cluster) -> None:
    with zipfile.ZipFile(DEMO / "sheets" / f"{FIRST}.zip") as archive:
        about = json.loads(archive.read("sheet.json"))
        pictures = {name.rpartition("/")[2] for name in archive.namelist()} - {"sheet.json"}
    document = json.loads((DEMO / f"{FIRST}.json").read_text("utf-8"))
    told = "make it anew: python -m tools.demo_sheet"
    assert (about["title"], about["document"]) == (TITLE, document), told
    assert {name: about["plan"][name] for name in ("vary", "count", "numbers")} == {
        name: PLAN[name] for name in ("vary", "count", "numbers")
    }, told
    assert {one["state"] for one in about["variants"]} == {"done"}
    assert {one["picture"] for one in about["variants"]} == pictures
    assert len(about["best"]) > 2, "a front to look at"
    sheet = Sheet(document, Plan.of(about["plan"]), {}, demo_shapes())
    one = about["variants"][about["best"][0] - 1]
    part = sheet.part(one["values"])
    sheet.parts.send([part], cluster.contents)
    ((_, outcome),) = cluster.outcomes([part])
    assert outcome["numbers"] == pytest.approx(one["numbers"], rel=1e-6), told
