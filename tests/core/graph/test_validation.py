"""What is wrong with a document is said at its node."""

from typing import Any

import pytest

from reticula.core.graph import Evaluator, problems_of


@pytest.mark.parametrize(
    ("change", "node", "message"),
    [
        (lambda n: n["tall"].update(operator="extrud"), "tall", "there is no operator 'extrud'; near it are extrude"),
        (lambda n: n["tall"].update(inputs={"geo": ["gone"]}), "tall", "comes from 'gone', which does not exist"),
        (lambda n: n["tall"].update(inputs={"mesh": ["sheet"]}), "tall", "has no input 'mesh'; it has geo"),
        (lambda n: n["tall"].update(inputs={"geo": ["sheet", "side"]}), "tall", "takes one geometry, not 2"),
        (
            lambda n: (
                n["fine"]["parameters"].update(levels=99)
                if n["fine"].setdefault("parameters", {}) is not None
                else None
            ),
            "fine",
            "levels: 99 is outside",
        ),
        (lambda n: n["tall"].update(inputs={}), "tall", "nothing is connected to 'geo'"),
        (lambda n: n["side"].update(skip=True), "side", "box cannot be skipped"),
    ],
)
def test_what_is_wrong_is_said_at_its_node(chain: dict[str, Any], change: Any, node: str, message: str) -> None:
    change(chain["nodes"])
    result = Evaluator().evaluate(chain).nodes[node]
    assert result.state == "failed"
    assert result.error is not None
    assert message in result.error["message"]


def test_circles_are_named_with_their_path(chain: dict[str, Any]) -> None:
    chain["nodes"]["tall"]["inputs"]["geo"] = ["fine"]
    problem = next(p for p in problems_of(chain) if "circle" in p.message)
    assert problem.message.endswith("tall → fine → tall")
    done = Evaluator().evaluate(chain).nodes
    assert (done["fine"].state, done["sheet"].state) == ("failed", "done")
