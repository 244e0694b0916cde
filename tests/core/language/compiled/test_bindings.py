"""What a kernel is handed: texts as numbers, one argument for equal things, values fetched when it runs."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.language.compiled.bindings import Bindings, Texts
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.scope import Scope
from reticula.core.language.types import TEXT, VEC3, PlaceOf
from tests.core.language.studio import reef, sheet


@pytest.fixture
def scope() -> Scope:
    inputs = {"geo": sheet(), "reef": reef(), "rope": ops.line(), "dots": Geo.of(np.eye(3))}
    return Scope(sheet(), "point", {"reach": 0.5, "offset": (1.0, 2.0, 3.0), "word": "sand"}, inputs, {}, {})


def test_texts_become_numbers_and_come_back() -> None:
    texts = Texts()
    assert [texts.code(word) for word in ("sand", "rock", "sand")] == [0, 1, 0]
    words = np.array(["rock", "mud", "sand", "mud"])
    codes = texts.encoded(words)
    assert codes[1] == codes[3] == 2
    assert texts.decoded(codes).tolist() == words.tolist()


def test_the_same_thing_is_handed_once(scope: Scope) -> None:
    bind = Bindings(scope)
    first = bind.attribute("point", "", "cover")
    assert bind.attribute("point", "", "cover") == first
    assert bind.attribute("point", "reef", "heat") != first
    assert len(bind.arguments) == 2


def test_values_are_fetched_when_the_kernel_runs(scope: Scope) -> None:
    bind = Bindings(scope)
    texts = Texts()
    values = [bind.arguments[name].fetch(texts) for name in bind.given("offset", VEC3)]
    assert values == [1.0, 2.0, 3.0]
    (word,) = bind.given("word", TEXT)
    assert texts.decoded(np.array([bind.arguments[word].fetch(texts)])).tolist() == ["sand"]


def test_attributes_are_whole_arrays_that_cannot_be_written(scope: Scope) -> None:
    bind = Bindings(scope)
    name = bind.attribute("point", "", "position")
    assert bind.arguments[name].type == "reads float64 2"
    values = bind.arguments[name].fetch(Texts())
    assert values.shape == (49, 3)


@pytest.mark.parametrize(
    ("owner", "how", "mode", "width"),
    [
        ("reef", "closest", "faces", 8),
        ("reef", "ray", "faces", 8),
        ("reef", "nearest", "points", 2),
        ("rope", "closest", "curves", 7),
        ("dots", "closest", "points", 2),
    ],
)
def test_what_places_of_a_question_lie_on(scope: Scope, owner: str, how: str, mode: str, width: int) -> None:
    bind = Bindings(scope)
    assert bind.lies_on(owner, QUESTIONS[how]) == mode
    assert bind.place_width(PlaceOf(owner, how)) == width
