"""Kernels run in chunks: all elements once, in order, stopped from outside, errors located."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import FormulaError, LimitError, Stopped
from reticula.core.language.compiled import executor
from reticula.core.language.compiled.executor import CHUNKS, SMALLEST, Job, emitted_or_none
from reticula.core.language.script import Script, run_script
from reticula.core.language.vector.clock import Clock
from tests.core.language.programs.interpreted import run_interpreted


@pytest.mark.parametrize("count", [1, SMALLEST - 1, SMALLEST, SMALLEST + 1, SMALLEST * 3 + 7])
def test_every_element_runs_once_and_in_order(count: int) -> None:
    line = ops.line(segments=count)
    made = run_interpreted(line, "here.a = index\nif index % 100 == 0:\n    p = add_point(position)\n    p.of = index")
    assert made.attribute("point", "a")[: count + 1].tolist() == list(range(count + 1))
    assert made.attribute("point", "of")[count + 1 :].tolist() == list(range(0, count + 1, 100))


def test_chunks_cover_the_elements_without_a_gap() -> None:
    script = Script("here.a = 1", ops.line(segments=99_999))
    job = Job(script.program, script.scope, script.elements())
    emitted = emitted_or_none(job)
    assert emitted is not None
    chunks = executor._Run(executor.Kernel(emitted, None), job, Clock(9)).chunks()
    assert len(chunks) <= CHUNKS
    assert chunks[0].begin == 0
    assert chunks[-1].end == 100_000
    assert all(a.end == b.begin for a, b in zip(chunks, chunks[1:], strict=False))


def test_an_error_names_the_line() -> None:
    with pytest.raises(FormulaError) as caught:
        run_interpreted(ops.line(segments=2000), "a = index - 1500\nhere.a = 5 // a")
    assert caught.value.line == 2
    assert "division by zero" in caught.value.plain


def test_a_run_that_is_stopped_says_so() -> None:
    text = "a = 0\nwhile a < 1000000000:\n    a += 1\nhere.a = a"
    script = Script(text, ops.line(segments=3))
    with pytest.raises(Stopped):
        script.run(stop=lambda: True, backend="vector")


def test_a_run_that_takes_too_long_ends(monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.core.language import script as scripts

    monkeypatch.setattr(scripts, "MOST_SECONDS", 0.05)
    with pytest.raises(LimitError, match=r"the script ran for 0\.05 s"):
        run_script(ops.line(segments=3), "a = 0\nwhile a >= 0:\n    a += 1\nhere.a = a", backend="vector")


def test_what_no_element_wrote_is_as_before() -> None:
    line = ops.line(segments=3).with_attribute("point", "a", np.array([5.0, 6, 7, 8]))
    assert run_interpreted(line, "if index == 1:\n    here.a = 0").attribute("point", "a").tolist() == [5, 0, 7, 8]
