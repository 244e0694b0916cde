"""What a graph or a package needs and takes is known before anything is made."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core.errors import GraphError
from reticula.core.packages import write_package
from reticula.core.packages.opened import opened
from tests.core.graph.building import graph, node
from tests.core.packages.studio import published


@pytest.fixture
def package(tmp_path: Path) -> Path:
    """A package with an operator that lifts what comes in by its dial ``height``."""
    library, _ = published()
    path = tmp_path / "lift.zip"
    path.write_bytes(write_package("lift@1.0.0", library.definitions, {}, {}))
    return path


def test_what_a_graph_takes_is_known() -> None:
    nodes = {"up": node("extrude", "scan", distance={"formula": "lift"})}
    dials = {"lift": {"type": "number", "value": 0.1}, "sides": {"type": "integer", "value": 3}}
    document = {**graph(nodes, dials=dials, inputs=("scan",)), "result": "up"}
    what = opened(document)
    assert (what.node, what.inputs, what.dials, what.whole) == ("up", ("scan",), ["lift", "sides"], {"sides"})
    assert [what.can_set(name) for name in ("lift", "up.distance", "lift.x", "reach")] == [True, True, False, False]
    assert what.content() == opened(dict(reversed(document.items()))).content()


def test_a_packages_operator_is_a_graph_whose_dials_are_set_by_their_names(package: Path) -> None:
    what = opened(package, given=["geo"])
    assert (what.inputs, what.dials) == (("geo",), ["height"])
    assert what.can_set("height")
    assert what.named("height") == "operator.height"
    assert list(what.library) == ["lift@1.0.0"]
    with pytest.raises(GraphError, match="needs a mesh for 'geo'"):
        opened(package)
    with pytest.raises(GraphError, match="has no output 'rest'; it has geo"):
        opened(package, given=["geo"], node="rest")


@pytest.mark.parametrize(("text", "message"), [("{", "is not JSON"), ("[]", "object"), ("{}", "not valid")])
def test_what_is_no_graph_is_said(tmp_path: Path, text: str, message: str) -> None:
    (tmp_path / "graph.json").write_text(text)
    with pytest.raises(GraphError, match=message):
        opened(tmp_path / "graph.json")
