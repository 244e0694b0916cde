"""Expressions on whole arrays: only what is needed is worked out, and questions are asked once."""

import numpy as np
import pytest

from reticula.core.errors import FormulaError
from reticula.core.language import evaluate
from reticula.core.language.scope import Scope
from reticula.core.language.vector.expressions import ExpressionRunner
from tests.core.language.programs.checked import INPUTS, expression
from tests.core.language.studio import sheet


def runner(elements: np.ndarray | None = None) -> ExpressionRunner:
    return ExpressionRunner(Scope(sheet(), "point", {}, {"geo": sheet(), **INPUTS}, {}, {}), elements)


def test_some_elements_give_their_rows() -> None:
    every = runner().run(expression("cover * 2"))
    some = np.array([3, 7, 11])
    assert runner(some).run(expression("cover * 2")).tolist() == every[some].tolist()
    inner = runner(some)
    with inner.only(np.array([2, 0])):
        assert inner.size == 2
        assert inner.numbers().tolist() == [11, 3]
        assert inner.run(expression("cover * 2")).tolist() == every[[11, 3]].tolist()
    assert inner.size == 3


def test_a_constant_is_one_row_for_all() -> None:
    assert len(runner().run(expression("1 + 2"))) == 1


@pytest.mark.parametrize(
    "text", ["1 if index == 0 else 10 // index", "index == 0 or 10 // index > 1", "not (index > 0 and 5 // index > 1)"]
)
def test_what_is_not_needed_is_not_worked_out(text: str) -> None:
    assert len(evaluate(text, sheet(), "point").array) == 49


def test_what_is_needed_fails_with_its_place() -> None:
    with pytest.raises(FormulaError) as caught:
        evaluate("cover + 10 // index", sheet(), "point")
    assert (caught.value.line, caught.value.column) == (1, 9)


def test_equal_questions_share_one_answer() -> None:
    asked = runner()
    asked.run(expression("reef.closest(position).distance + reef.closest(position).distance"))
    assert len(asked.answers) == 1


def test_lists_per_element() -> None:
    made = runner().run(expression("sum(here.neighbours.cover)"))
    shape, cover = sheet().topology, sheet().attribute("point", "cover")
    by_edges = np.bincount(shape.edges[:, 0], cover[shape.edges[:, 1]], 49) + np.bincount(
        shape.edges[:, 1], cover[shape.edges[:, 0]], 49
    )
    assert made == pytest.approx(by_edges)
