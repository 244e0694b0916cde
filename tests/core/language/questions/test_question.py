"""The table of questions: every entry is whole, its example holds in both back ends, and nothing is asked twice."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.pictures import Picture, with_picture
from reticula.core.language import evaluate
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.questions import question as table
from reticula.core.language.questions.question import largest, within
from reticula.core.language.script import run_script
from reticula.core.spans import recording
from reticula.core.spatial.sampling import sample_points
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.questions.asking import value
from tests.core.language.studio import same


@pytest.mark.parametrize("name", QUESTIONS)
def test_every_question_is_whole(name: str) -> None:
    asked = QUESTIONS[name]
    assert asked.name == name
    assert asked.summary[0].islower()
    assert f"geo.{name}(" in asked.example
    assert 1 <= asked.least <= len(asked.wanted)
    assert bool(asked.fields) == (asked.gives == table.PLACE)
    assert not asked.named or asked.named in asked.usage


@pytest.mark.parametrize("name", QUESTIONS)
def test_every_example_holds_in_both_back_ends(name: str) -> None:
    box = with_picture(ops.box(), Picture(np.array([[[0.5], [1.0]], [[0.0], [0.25]]])))
    example = QUESTIONS[name].example
    assert evaluate(example, box, "whole", "flag").array.all()
    text = f"here.a = {example}"
    compiled = run_interpreted(box, text)
    same(run_script(box, text, backend="vector"), compiled)
    assert compiled.attribute("point", "a").all()


@pytest.mark.parametrize("name", [name for name, asked in QUESTIONS.items() if asked.fields])
def test_every_field_has_the_type_it_says(name: str) -> None:
    box = ops.box()
    given = [np.array([[0.0, 2.0, 0.0]])] * QUESTIONS[name].least
    found = QUESTIONS[name].ask(box, given)
    for field in QUESTIONS[name].fields:
        values = field.read(found)
        assert values.dtype == field.type.dtype  # type: ignore[union-attr]
        assert values.shape == (1, *field.type.shape)  # type: ignore[union-attr]


def test_a_reach_that_differs_takes_back_what_is_beyond() -> None:
    places = np.zeros((2, 3))
    found = sample_points(ops.box(), places)
    assert within(found, [places], 1) is found
    assert within(found, [places, np.array([0.1, 2.0])], 1).found.tolist() == [False, True]
    assert largest([places], 1) == np.inf
    assert largest([places, np.array([0.1, 2.0])], 1) == 2.0


def test_equal_questions_are_asked_once(sheet: Geo, ball: Geo, monkeypatch: pytest.MonkeyPatch) -> None:
    asked = []
    original = table.Question.ask
    monkeypatch.setattr(table.Question, "ask", lambda self, *given: asked.append(self.name) or original(self, *given))
    value(
        "ball.closest(position).distance + ball.closest(position).heat + ball.closest( position ).normal.y", sheet, ball
    )
    assert asked == ["closest"]


def test_the_time_of_questions_is_told_apart(sheet: Geo, ball: Geo) -> None:
    with recording() as spans:
        value("ball.closest(position).distance", sheet, ball)
    assert spans.sums["query"] > 0
