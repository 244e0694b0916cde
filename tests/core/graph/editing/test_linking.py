"""Linked copies: one graph that several nodes run. Linking, separating, folding and publishing change no result."""

from __future__ import annotations

import json
import random
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator, check_structure, run_graph
from reticula.core.graph.editing import fold, link_copy, rename_dial, rename_port, separate, unfold
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.structure.linked import attached, check_links, detached, holders_of, resolved
from reticula.core.packages import prepare
from tests.core.graph.building import graph, node
from tests.helpers import examples

DEMOS = sorted((Path(__file__).parents[4] / "demo").glob("*.json"))


def bud(height: float) -> dict[str, Any]:
    inner = graph(
        {
            "come": node("input", name="geo"),
            "up": node("extrude", "come", where="index % 3 == 0", distance={"formula": "height"}),
        },
        dials={"height": {"type": "number", "value": height}},
    )
    return inner | {
        "inputs": [{"name": "geo", "help": ""}],
        "outputs": [{"name": "geo", "help": "", "feed": "up"}],
    }


def start() -> dict[str, Any]:
    return graph(
        {
            "tile": node("grid", cells=[5, 5]),
            "buds": node("folded", "tile", height=0.2) | {"title": "Buds", "graph": bud(0.1)},
            "last": node("transform", "buds", move=[0, 1, 0]),
        }
    )


def stored(document: dict[str, Any]) -> dict[str, Any]:
    """A document as it is kept, after it went through text, like any other."""
    made: dict[str, Any] = json.loads(json.dumps(detached(document)))
    check_structure(made)
    return made


def digests(document: dict[str, Any]) -> dict[str, str]:
    done = Evaluator().evaluate(document)
    assert [one.error for one in done.nodes.values() if one.error] == []
    return {name: done.geo(name).digest for name in done.nodes}


def test_a_linked_copy_has_one_graph_and_values_of_its_own() -> None:
    made, name = link_copy(attached(start()), "", "buds")
    kept = stored(made)
    assert name == "buds_2"
    assert list(kept["nodes"]) == ["tile", "buds", "buds_2", "last"]
    assert kept["linked"] == {"buds": bud(0.1)}
    assert kept["nodes"]["buds_2"] == kept["nodes"]["buds"]
    assert "graph" not in kept["nodes"]["buds"]
    before, after = digests(start()), digests(kept)
    assert {key: after[key] for key in before} == before
    assert after["buds_2"] == before["buds"]
    kept["nodes"]["buds_2"]["parameters"]["height"] = 0.7
    higher = digests(kept)
    assert higher["buds"] == before["buds"]
    assert run_graph(kept, node="buds_2").positions[:, 1].max() == pytest.approx(0.7)


def test_what_is_edited_in_one_is_edited_in_all() -> None:
    kept = stored(link_copy(attached(start()), "", "buds")[0])
    edited = attached(deepcopy(kept))
    level_of(edited, "buds_2")["nodes"]["up"]["parameters"]["where"] = "index == 0"
    again = stored(edited)
    assert again["linked"]["buds"]["nodes"]["up"]["parameters"]["where"] == "index == 0"
    done = digests(again)
    assert done["buds"] == done["buds_2"] != digests(kept)["buds"]


def test_separated_and_left_alone_it_is_what_it_was() -> None:
    kept = stored(link_copy(attached(start()), "", "buds")[0])
    apart = stored(separate(attached(kept), "", "buds_2"))
    assert apart["nodes"]["buds_2"]["graph"] == bud(0.1)
    assert apart["linked"] == {"buds": bud(0.1)}
    alone = stored(separate(attached(apart), "", "buds"))
    assert "linked" not in alone
    del alone["nodes"]["buds_2"]
    assert alone == start()
    with pytest.raises(GraphError, match="not linked"):
        separate(attached(alone), "", "buds")
    with pytest.raises(GraphError, match="fold the cards first"):
        link_copy(attached(alone), "", "tile")


def test_names_inside_are_followed_by_all_copies() -> None:
    kept = stored(link_copy(attached(start()), "", "buds")[0])
    kept["nodes"]["buds_2"]["parameters"]["height"] = 0.6
    kept["nodes"]["both"] = node("join", inputs={"geometries": ["buds:geo", "buds_2:geo"]})
    before = digests(kept)
    made = stored(rename_dial(attached(kept), "buds", "height", "rise"))
    made = stored(rename_port(attached(made), "buds_2", "inputs", "geo", "base"))
    made = stored(rename_port(attached(made), "buds", "outputs", "geo", "made"))
    assert [made["nodes"][name]["parameters"] for name in ("buds", "buds_2")] == [{"rise": 0.2}, {"rise": 0.6}]
    assert [made["nodes"][name]["inputs"] for name in ("buds", "buds_2")] == [{"base": ["tile"]}] * 2
    assert made["nodes"]["both"]["inputs"]["geometries"] == ["buds:made", "buds_2:made"]
    assert digests(made) == before


def test_a_published_operator_has_no_links() -> None:
    document = attached(stored(link_copy(attached(start()), "", "buds")[0]))
    folded, name = fold(document, ["buds", "buds_2"], "Both")
    kept = stored(folded)
    about = {"name": "both", "release": "1.0.0", "title": "Both", "summary": "two of them"}
    made = prepare(dict(resolved(kept)), "", name, about)
    assert "linked" not in json.dumps(made.definition)


@pytest.mark.parametrize("seed", range(examples(30)))
def test_linking_separating_folding_and_unfolding_change_no_result(seed: int) -> None:
    rng = random.Random(seed)
    kept = start()
    wanted = digests(kept)["last"]
    for _ in range(12):
        document = attached(kept)
        levels = [""] + [name for name, entry in document["nodes"].items() if "graph" in entry]
        path = rng.choice(levels)
        level = level_of(document, path)
        holders = [name for name, entry in level["nodes"].items() if "graph" in entry]
        linked = [name for name in holders if "linked" in level["nodes"][name]]
        what = rng.choice(["link", "link", "separate", "fold", "unfold", "round"])
        if what == "link" and holders and len(level["nodes"]) < 12:
            document, _ = link_copy(document, path, rng.choice(holders))
        elif what == "separate" and linked:
            document = separate(document, path, rng.choice(linked))
        elif what == "fold" and not path:
            members = [name for name in holders if name != "last"]
            if members:
                document, _ = fold(document, [rng.choice(members)], "Held")
        elif what == "unfold" and len(holders) > 1 and not path:
            document, _ = unfold(document, rng.choice(holders))
        kept = stored(document)
        assert attached(stored(attached(kept))) == attached(kept)
    assert digests(kept)["last"] == wanted
    flat = json.loads(json.dumps(resolved(kept)))
    assert "linked" not in json.dumps(flat)
    assert digests(flat) == digests(kept)


@pytest.mark.parametrize("path", DEMOS, ids=lambda path: path.stem)
def test_old_documents_are_what_they_are(path: Path) -> None:
    document = json.loads(path.read_text("utf-8"))
    assert attached(document) == document
    assert detached(attached(document)) == document
    assert resolved(document) is document


def test_links_that_cannot_be_are_said() -> None:
    document = stored(link_copy(attached(start()), "", "buds")[0])
    nowhere = deepcopy(document)
    nowhere["nodes"]["buds"]["linked"] = "other"
    with pytest.raises(GraphError, match="no linked graph 'other'; there is buds"):
        check_structure(nowhere)
    circle = deepcopy(document)
    circle["linked"]["buds"]["nodes"]["again"] = {"operator": "folded", "linked": "buds"}
    with pytest.raises(GraphError, match="holds itself: buds → buds"):
        check_structure(circle)
    inside = start()
    inside["nodes"]["buds"]["graph"]["linked"] = {"a": bud(0.1)}
    with pytest.raises(GraphError, match="outermost"):
        check_structure(inside)
    bomb = start() | {"linked": {"n0": bud(0.1)}}
    for level in range(1, 6):
        many = {f"c{k}": {"operator": "folded", "linked": f"n{level - 1}"} for k in range(10)}
        bomb["linked"][f"n{level}"] = graph(many)
    with pytest.raises(GraphError, match="are the most"):
        check_links(bomb)


def test_copies_that_were_changed_in_two_ways_are_refused() -> None:
    document = json.loads(json.dumps(attached(stored(link_copy(attached(start()), "", "buds")[0]))))
    document["nodes"]["buds"]["graph"]["dials"]["height"]["value"] = 0.3
    document["nodes"]["buds_2"]["graph"]["dials"]["height"]["value"] = 0.4
    with pytest.raises(GraphError, match="in two ways"):
        detached(document)


def test_holders_are_found_at_any_depth() -> None:
    document = attached(stored(link_copy(attached(start()), "", "buds")[0]))
    folded, name = fold(document, ["buds_2"], "Held")
    kept = attached(stored(folded))
    held = kept["nodes"]["buds"]["graph"]
    assert sorted(holder for _, holder in holders_of(kept, held)) == ["buds", "buds_2"]
    assert held is level_of(kept, name)["nodes"]["buds_2"]["graph"]
