"""What an editor offers: all that can be read at a place, and nothing that cannot."""

import numpy as np
import pytest

from reticula.core.errors import FormulaError
from reticula.core.language import evaluate
from reticula.core.language.completions import describe_functions, describe_members, describe_names, values_in_words
from reticula.core.language.functions import FUNCTIONS
from reticula.core.language.scope import Scope
from tests.core.language.studio import reef, sheet

SCOPE = Scope(sheet(), "point", {"reach": 0.5, "on": True}, {"reef": reef(), "none": None}, {}, {})


def test_every_function_is_offered_with_its_help() -> None:
    told = {entry["name"]: entry for entry in describe_functions()}
    assert set(FUNCTIONS) <= set(told)
    assert all(entry["usage"] and entry["summary"] and entry["family"] for entry in told.values())


def test_every_name_that_is_offered_can_be_read() -> None:
    for entry in describe_names(SCOPE):
        if entry["from"] in ("input",) or " list" in entry["type"]:
            continue
        made = evaluate(entry["name"], sheet(), "point", dials=SCOPE.dials)
        assert made.type == entry["type"], entry["name"]


@pytest.mark.parametrize("name", ["crest", "area", "nothing"])
def test_what_is_on_other_elements_is_not_offered(name: str) -> None:
    assert name not in {entry["name"] for entry in describe_names(SCOPE)}
    with pytest.raises(FormulaError):
        evaluate(name, sheet(), "point")


def test_members_lead_on() -> None:
    members = describe_members(SCOPE)
    here = {entry["name"]: entry["type"] for entry in members["here"]}
    assert here["neighbours"] == "list of points"
    assert here["cover"] == "number"
    assert "crest" in {entry["name"] for entry in members["here.faces"]}
    assert {"closest", "points", "high"} <= {entry["name"] for entry in members["reef"]}
    assert {entry["from"] for entry in members["none"]} == {"question"}
    assert {"distance", "normal"} <= {entry["name"] for entry in members["()"]}


@pytest.mark.parametrize(
    ("values", "type", "words"),
    [
        ([], "number", "no elements"),
        ([True, False, True, True], "flag", "3 of 4 (75.0%)"),
        (["a", "b", "a"], "text", "2 different texts"),
        ([1.0, 2.5], "number", "1 to 2.5"),
        ([2, 2], "integer", "2"),
        ([[0, 1], [0, 3]], "vec2", "0, 1 to 3"),
    ],
)
def test_values_in_words(values: list[object], type: str, words: str) -> None:
    assert values_in_words(np.array(values), type) == words
