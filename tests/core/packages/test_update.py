"""Another release in a graph: nothing that was set is lost."""

from __future__ import annotations

import pytest

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator, run_graph
from reticula.core.packages import update_release
from tests.core.graph.building import graph, node
from tests.core.packages.studio import lift_document, published, release

NUMBER = {"type": "number", "value": 0.0}


def test_another_release_is_taken_or_tried_beside_and_nothing_is_lost() -> None:
    library, _ = published()
    document = lift_document()
    document["nodes"]["b"]["graph"]["dials"] = {"rise": NUMBER | {"value": 5.0}}
    document["nodes"]["b"]["graph"]["nodes"]["up"]["parameters"]["move"] = {"formula": "vec3(0, rise, 0)"}
    release(document, library, release="2.0.0")
    made = graph({"a": node("box"), "l": node("lift@1.0.0", "a", height=2.0)})
    with using(library=library):
        tried, copy = update_release(made, "", "l", "2.0.0", beside=True)
        taken, same = update_release(made, "", "l", "2.0.0")
        with pytest.raises(GraphError, match=r"there is no release 3\.0\.0 of 'lift'; there are 1\.0\.0, 2\.0\.0"):
            update_release(made, "", "l", "3.0.0")
    assert set(tried["nodes"]) == {"a", "l", copy}
    assert (same, taken["nodes"]["l"]["parameters"]) == ("l", {"height": 2.0})
    done = Evaluator().evaluate(taken, operators=library).nodes["l"]
    assert done.geo.bounds[0, 1] == pytest.approx(4.5)
    assert "no dial height any more; the value is put by" in done.notes[0].text
    assert run_graph(made, node="l", operators=library).bounds[0, 1] == pytest.approx(1.5)
