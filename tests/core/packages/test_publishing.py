"""Releases: what is published, what differs, what must hold, and graphs that pin one."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator, run_graph
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import differences, prepare
from tests.core.graph.building import graph, node
from tests.core.packages.studio import ABOUT, lift_document, published, release

NUMBER = {"type": "number", "value": 0.0}


def test_a_published_operator_runs_in_any_graph() -> None:
    library, definition = published()
    assert definition["examples"][0]["expected"]["geo"]["counts"]["face"[:4] + "s"] == 6
    made = graph({"a": node("grid"), "l": node("lift@1.0.0", "a", height=2.0), "m": node("lift@1.0.0", "l")})
    assert run_graph(made, node="m", operators=library).bounds[0, 1] == pytest.approx(3.0)
    error = Evaluator().evaluate(made).nodes["l"].error
    assert "the catalogue has no operator 'lift@1.0.0'; import the package" in error["message"]
    made["nodes"]["l"]["operator"] = "lift@2.0.0"
    error = Evaluator().evaluate(made, operators=library).nodes["l"].error
    assert "no release 2.0.0 of 'lift'; it has 1.0.0" in error["message"]


def test_nodes_of_a_published_operator_hold_no_graph_of_their_own() -> None:
    library, _ = published()
    with using(library=library):
        made = operator_of(node("lift@1.0.0"))
    assert not made.holds_graph
    assert not made.describe()["holds_graph"]


def test_set_values_become_the_defaults() -> None:
    document = lift_document()
    document["nodes"]["b"]["parameters"] = {"height": 3.0}
    definition = release(document, MemoryLibrary())
    assert definition["graph"]["dials"]["height"]["value"] == 3.0


def test_releases_follow_semantic_versioning() -> None:
    library, _ = published()
    with pytest.raises(GraphError, match=r"1\.0\.0 is published; a new release must be larger"):
        release(lift_document(), library)
    with pytest.raises(GraphError, match=r"'1\.x' is not a release"):
        release(lift_document(), library, release="1.x")
    with pytest.raises(
        GraphError, match=r"this must be 1\.1\.0 at least, since there is minor change \(new: the dial 'more'\)"
    ):
        release(lift_document(more=NUMBER), library, release="1.0.1")
    release(lift_document(more=NUMBER), library, release="1.1.0")
    with pytest.raises(GraphError, match=r"this must be 2\.0\.0 at least.*gone: the dial 'more'"):
        release(lift_document(), library, release="1.2.0")
    assert library.releases("lift") == ["1.0.0", "1.1.0"]


def test_differences_in_words() -> None:
    library, old = published()
    document = lift_document(more=NUMBER)
    dial = document["nodes"]["b"]["graph"]["dials"]["height"]
    dial |= {"value": 2.0, "high": 5.0}
    document["nodes"]["b"]["graph"]["inputs"].append({"name": "guide", "optional": True})
    found = differences(old, release(document, library, release="1.1.0"))
    assert found.new == ("the dial 'more'", "the input 'guide'")
    assert found.changed == ("the default of 'height': 1 → 2", "high of 'height': 9 → 5")
    assert found.step == "minor"
    text = {**old, "graph": {**old["graph"], "dials": {"height": {"type": "text", "value": ""}}}}
    assert differences(old, text).gone == ("the dial 'height' as a number; it is a text now",)


def test_a_release_that_breaks_an_example_or_a_promise_says_so() -> None:
    document = lift_document()
    document["nodes"]["b"]["graph"]["contracts"] = [{"what": "quads"}]
    library = MemoryLibrary()
    release(document, library)
    other = lift_document()
    other["nodes"]["b"]["graph"]["nodes"]["up"] = node("smooth_subdivide", "geo")
    with using(library=library):
        made = prepare(other, "", "b", {**ABOUT, "release": "1.0.1"})
    assert any("the example 'As it was when it was published' of 1.0.0: 'geo' has" in line for line in made.breaks)
    assert "the promise 'quads' is not made any more" in made.breaks


def test_an_example_that_breaks_its_own_promise_is_not_published() -> None:
    document = lift_document()
    document["nodes"]["b"]["graph"]["contracts"] = [{"what": "triangles"}]
    with pytest.raises(
        GraphError, match="the example does not run: What this operator promises does not hold: 6 of 6 faces"
    ):
        release(document, MemoryLibrary())


def test_only_folded_cards_without_troubles_are_published() -> None:
    with pytest.raises(GraphError, match="only a folded card can be published"):
        prepare(lift_document(), "", "a", ABOUT)
    document = lift_document()
    document["nodes"]["b"]["graph"]["nodes"]["up"]["parameters"]["no_such"] = 1
    with pytest.raises(GraphError, match="has no such parameter"):
        prepare(document, "", "b", ABOUT)
    with pytest.raises(GraphError, match="not valid: at name"):
        prepare(lift_document(), "", "b", {**ABOUT, "name": "Not A Name"})


def test_published_operators_use_published_ones() -> None:
    library, _ = published()
    inner = graph(
        {
            "one": node("lift@1.0.0", "geo", height={"dial": "each"}),
            "two": node("lift@1.0.0", "one", height={"dial": "each"}),
        },
        inputs=("geo",),
        outputs={"geo": "two"},
        dials={"each": NUMBER | {"value": 1.0}},
    )
    document = graph({"a": node("box"), "b": node("folded", "a", graph=inner)})
    release(document, library, name="twice")
    made: dict[str, Any] = graph({"a": node("box"), "t": node("twice@1.0.0", "a", each=2.0)})
    evaluator = Evaluator()
    assert evaluator.evaluate(made, operators=library).geo("t").bounds[0, 1] == pytest.approx(3.5)
    inside = evaluator.evaluate(made, operators=library, level="t/two")
    assert inside.geo("up").bounds[0, 1] == pytest.approx(3.5)
