"""Statements on whole arrays: blocks run for the elements that reach them, beside the same loop in plain Python."""

import numpy as np
import pytest

from reticula.core.language.script import Script, run_script
from reticula.core.language.vector.statements import ProgramRunner
from tests.core.language.studio import sheet


def plain(step: object) -> list[float]:
    return [step(i, c) for i, c in enumerate(sheet().attribute("point", "cover").tolist())]  # type: ignore[operator]


def test_branches_meet_again() -> None:
    made = run_script(sheet(), "a = 1\nif cover > 0.5:\n    a = 2\nelif index % 2 == 0:\n    a = 3\nhere.a = a * 10")
    assert made.attribute("point", "a").tolist() == plain(lambda i, c: 20 if c > 0.5 else 30 if i % 2 == 0 else 10)


def test_loops_end_for_each_element_by_itself() -> None:
    made = run_script(sheet(), "n = 0\nx = cover\nwhile x < 3:\n    x = x * 2 + 0.1\n    n += 1\nhere.n = n")

    def rounds(i: int, x: float) -> int:
        n = 0
        while x < 3:
            x, n = x * 2 + 0.1, n + 1
        return n

    assert made.attribute("point", "n").tolist() == plain(rounds)


def test_leaving_and_going_on() -> None:
    text = (
        "t = 0\nfor k in range(index):\n    if k % 3 == 0:\n        continue\n"
        "    if k > 8:\n        break\n    t += k\nhere.t = t"
    )

    def total(i: int, c: float) -> int:
        t = 0
        for k in range(i):
            if k % 3 == 0:
                continue
            if k > 8:
                break
            t += k
        return t

    assert run_script(sheet(), text, backend="vector").attribute("point", "t").tolist() == plain(total)


def test_some_elements_only() -> None:
    script = Script("here.a = index * 2", sheet())
    runner = ProgramRunner(script.program, script.scope, np.array([4, 9]))
    runner.go()
    held = runner.own_values["a"]
    assert held.values.tolist() == [8, 18]
    assert held.written.tolist() == [True, True]


@pytest.mark.parametrize(("which", "lines"), [([3], ["3 6"]), ([3, 5], ["point 3: 3 6", "point 5: 5 10"])])
def test_printing_is_for_the_elements_that_are_asked(which: list[int], lines: list[str]) -> None:
    assert Script("print(index, index * 2)", sheet()).printed(np.array(which)) == lines
