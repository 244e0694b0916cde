"""Examples: run with another release, compared to the last bits but no further."""

from __future__ import annotations

import pytest

from reticula.core import ops
from reticula.core.context import using
from reticula.core.packages import run_examples
from reticula.core.packages.examples import measure_result
from tests.core.packages.studio import published


def test_examples_allow_for_the_last_bits_but_no_more() -> None:
    library, definition = published()
    example = definition["examples"][0]
    expected = example["expected"]["geo"]
    expected["digest"] = "another machine"
    with using(library=library):
        assert run_examples(definition, [example])[0].trouble == ""
        expected["means"]["point.position"][1] += 1e-6
        assert "other values of point.position" in run_examples(definition, [example])[0].trouble
        expected["bounds"][0][1] += 1e-6
        assert "another size or place" in run_examples(definition, [example])[0].trouble


def test_what_is_gone_or_counted_differently_is_said() -> None:
    library, definition = published()
    example = definition["examples"][0]
    expected = example["expected"]["geo"]
    expected["digest"] = ""
    with using(library=library):
        example["expected"] = {"gone": expected}
        assert run_examples(definition, [example])[0].trouble == "there is no output 'gone' any more"
        example["expected"] = {"geo": {**expected, "counts": {"points": 8}}}
        assert "'geo' has 8 points" in run_examples(definition, [example])[0].trouble
        example["expected"] = {"geo": {**expected, "means": {"face.heat": 1.0}}}
        assert "no attribute face.heat any more" in run_examples(definition, [example])[0].trouble


def test_an_example_that_fails_says_why() -> None:
    library, definition = published()
    example = definition["examples"][0]
    example["graph"]["nodes"][example["node"]]["parameters"] = {"height": 99}
    with using(library=library):
        trial = run_examples(definition, [example])[0]
    assert "99 is outside of 0 to 9" in trial.trouble
    assert trial.found == {}


def test_what_is_measured_of_a_result() -> None:
    box = ops.set_attribute(ops.box(), name="label", kind="face", value="'rock'")
    found = measure_result(box)
    assert found["counts"] == {"points": 8, "edges": 12, "corners": 24, "faces": 6}
    assert found["bounds"] == [[-0.5] * 3, [0.5] * 3]
    assert found["means"]["point.position"] == pytest.approx([0, 0, 0])
    assert found["means"]["face.label"] == "text"
