"""Values of one frame ago in scripts, on both back ends."""

from __future__ import annotations

from typing import Literal

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph.evaluation.evaluator import Evaluator, run_graph
from reticula.core.language.before import asks_for_before, with_before
from reticula.core.language.script import Script
from tests.core.graph.building import graph, node
from tests.core.operators.time.moving import at, moved

WENT = "here.went = position - here.before('position')"


@pytest.mark.parametrize("backend", ["vector", "compiled"])
def test_elements_are_found_by_name_and_new_ones_have_the_value_of_now(backend: Literal["vector", "compiled"]) -> None:
    now = ops.grid(cells=(2, 2))
    before = ops.remove(ops.transform(now, move=(0, 3, 0)), where="position.x > 0.1", kind="face")
    made = Script(WENT, now, before=before).run(backend=backend)
    was_there = now.positions[:, 0] < 0.1
    np.testing.assert_allclose(made.attribute("point", "went"), np.where(was_there[:, None], [0, -3, 0], 0.0))
    assert set(made.attributes["point"]) == {"position", "went"}


def test_any_attribute_of_any_kind_and_type_can_be_read() -> None:
    sheet = (
        ops.grid(cells=(2, 1)).with_attribute("face", "word", ["a", "b"]).with_attribute("face", "on", [True, False])
    )
    before = sheet.with_attribute("face", "word", ["c", "d"]).with_attribute("face", "on", [False, True])
    made = Script("here.old = here.before('word')\nhere.was = here.before(\"on\")", sheet, "face", before=before).run()
    assert list(made.attribute("face", "old")) == ["c", "d"]
    np.testing.assert_array_equal(made.attribute("face", "was"), [False, True])


def test_in_a_graph_it_is_the_input_of_the_frame_before() -> None:
    document = moved("vec3(0, frame * frame, 0)", last=node("script", "moved", source=WENT))
    np.testing.assert_allclose(at(document, 5).attribute("point", "went")[:, 1], 25 - 16)


def test_a_script_that_asks_for_nothing_of_before_is_not_evaluated_again() -> None:
    document = graph({"sheet": node("grid"), "up": node("script", "sheet", source="here.position = position * 2")})
    evaluator = Evaluator()
    evaluator.evaluate(document, frame=1)
    assert evaluator.evaluate(document, frame=2).nodes["up"].cached


def test_names_that_stand_in_are_as_long_so_places_in_messages_hold() -> None:
    source = "a = here.before('position') + no_such"
    replaced, _, names = with_before(source, ops.grid(), "point", None)
    assert len(replaced) == len(source)
    assert names == ["before__position__"]
    with pytest.raises(FormulaError) as caught:
        Script(source, ops.grid())
    assert (caught.value.line, caught.value.column) == (1, source.index("no_such") + 1)


def test_an_attribute_that_is_not_there_is_told_with_its_place() -> None:
    with pytest.raises(FormulaError, match="no attribute 'heat'") as caught:
        Script("a = 1\nb = here.before('heat')", ops.grid())
    assert (caught.value.line, caught.value.column) == (2, 5)
    document = moved("vec3(0, 0, 0)", last=node("script", "moved", source="here.a = here.before('heat')"))
    with pytest.raises(GraphError, match="no attribute 'heat'"):
        run_graph(document, node="last")


def test_asking_is_told_from_words_that_look_like_it() -> None:
    assert asks_for_before(WENT)
    assert not asks_for_before("here.before_all = 1")


def test_without_a_frame_before_it_is_the_value_of_now() -> None:
    made = ops.script(ops.grid(), source=WENT)
    np.testing.assert_allclose(made.attribute("point", "went"), 0.0)
