"""What differs between two releases, and which number the next one needs (Semantic Versioning 2.0.0)."""

from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.packages.definition import release_of
from reticula.core.packages.differences import differences, least_release


def definition(dials: dict[str, Any], inputs: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
    return {"graph": {"dials": dials, "inputs": inputs or [], **more}}


HEIGHT = {"type": "number", "value": 1}


@pytest.mark.parametrize(
    ("old", "new", "release"),
    [
        (definition({"h": HEIGHT}), definition({"h": HEIGHT}), "1.2.4"),
        (definition({"h": HEIGHT}), definition({"h": {**HEIGHT, "value": 2}}), "1.2.4"),
        (definition({}), definition({"h": HEIGHT}), "1.3.0"),
        (definition({}), definition({}, [{"name": "scan", "optional": True}]), "1.3.0"),
        (definition({}), definition({}, [{"name": "scan"}]), "2.0.0"),
        (definition({"h": HEIGHT}), definition({}), "2.0.0"),
        (definition({"h": HEIGHT}), definition({"h": {"type": "text", "value": "a"}}), "2.0.0"),
        (definition({}, outputs=[{"name": "rest"}]), definition({}), "2.0.0"),
    ],
)
def test_the_least_release_follows_from_what_differs(old: Any, new: Any, release: str) -> None:
    assert least_release("1.2.3", differences(old, new)) == release


def test_differences_are_told_in_words() -> None:
    found = differences(
        definition({"a": HEIGHT, "b": HEIGHT}, nodes={"x": 1}),
        definition({"a": {**HEIGHT, "value": 3}, "c": HEIGHT}, nodes={"x": 2}),
    )
    assert found.gone == ("the dial 'b'",)
    assert found.new == ("the dial 'c'",)
    assert found.changed == ("the default of 'a': 1 → 3",)
    assert differences(definition({}, nodes={}), definition({}, nodes={"x": 1})).changed == ("only what is inside",)


@pytest.mark.parametrize("text", ["1", "1.2", "1.2.x", "01.2.3", "1.2.3-beta", ""])
def test_what_is_no_release_is_refused(text: str) -> None:
    with pytest.raises(GraphError, match="write three numbers"):
        release_of(text)
