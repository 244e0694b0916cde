"""What goes wrong or on for too long is said alike by both back ends, and stops."""

from __future__ import annotations

import time

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormulaError, LimitError, Stopped
from reticula.core.language import script as scripts
from reticula.core.language.compiled import executor
from reticula.core.language.limits import MOST_ITEMS
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import sheet

BROKEN = [
    ("values = [1, 2]\nhere.a = values[index]", "there is no item 2 in a list of 2", 2, 10),
    ("here.a = 7 // (index - 3)", "division by zero", 1, 10),
    ("here.a = 7 % (index - 3)", "division by zero", 1, 10),
    ("here.a = len([k for k in range(0, 9, index)])", "steps of 0", 1, 26),
    (
        "def f(n):\n    if n < -99999:\n        return 0\n    return f(n + 1)\nhere.a = f(index)",
        "more than 64 deep",
        4,
        12,
    ),
    ("add_curve([here])", "a curve needs at least 2 points, and this list has 1", 1, 1),
    ("add_face([here, here])", "a face needs at least 3 points, and this list has 2", 1, 1),
    ("add_point(sqrt(position - 9))", "not a finite number", 1, 1),
]


@pytest.mark.parametrize(("text", "message", "line", "column"), BROKEN)
def test_both_tell_the_same_about_what_goes_wrong(text: str, message: str, line: int, column: int) -> None:
    for run in (lambda: run_script(sheet(), text, backend="vector"), lambda: run_interpreted(sheet(), text)):
        with pytest.raises(FormulaError) as caught:
            run()
        assert message in caught.value.plain
        assert (caught.value.line, caught.value.column) == (line, column)


def test_numbers_that_are_none_name_the_attribute_and_the_first_element() -> None:
    for backend in ("vector", "compiled"):
        with pytest.raises(
            FormulaError, match=r"'a' would not be a finite number at 1 of 49 points \(first: point 5\)"
        ):
            run_script(sheet(), "here.a = 1.0 / (index - 5)", backend=backend)  # type: ignore[arg-type]


@pytest.mark.parametrize("backend", ["vector", "compiled"])
def test_an_endless_loop_ends_at_the_limit(backend: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scripts, "MOST_SECONDS", 0.4)
    with pytest.raises(LimitError, match=r"ran for 0\.4 s"):
        run_script(sheet(), "k = 0\nwhile True:\n    k += 1", backend=backend)  # type: ignore[arg-type]


@pytest.mark.parametrize("backend", ["vector", "compiled"])
def test_a_loop_is_stopped_from_outside(backend: str) -> None:
    begin = time.monotonic()
    with pytest.raises(Stopped):
        run_script(
            sheet(),
            "k = 0\nwhile k >= 0:\n    k += 1",
            backend=backend,
            stop=lambda: time.monotonic() - begin > 0.3,  # type: ignore[arg-type]
        )
    assert time.monotonic() - begin < 30


def test_limits_on_what_is_made(monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.core.language import effects

    monkeypatch.setattr(effects, "MOST_MADE", 1000)
    text = "for i in range(40):\n    add_point(position)"
    for run in (lambda: run_script(sheet(), text, backend="vector"), lambda: run_interpreted(sheet(), text)):
        with pytest.raises(LimitError, match="more than 1,000 elements"):
            run()


def test_a_list_cannot_grow_without_end(monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.core.language.vector import lists

    monkeypatch.setattr(lists, "MOST_ITEMS", 500)
    with pytest.raises(LimitError, match="beyond 500 items"):
        run_script(sheet(), "v = [1]\nwhile True:\n    v.append(2)", backend="vector")
    with pytest.raises(FormulaError, match=f"beyond {MOST_ITEMS:,} items"):
        run_interpreted(Geo.empty(), f"v = [k for k in range({MOST_ITEMS + 1})]\nwhole.n = len(v)", each="once")


def test_results_do_not_depend_on_the_number_of_threads(monkeypatch: pytest.MonkeyPatch) -> None:
    geo = ops.grid(cells=(60, 60))
    text = (
        "for p in here.points:\n    p.heat += area * random(1)\n    p.last = index\nif random(2) < 0.2:\n"
        "    add_point(position)\n    remove(here)"
    )
    made = []
    with collecting():
        for threads in (1, 4):
            monkeypatch.setattr(executor.os, "cpu_count", lambda count=threads: count)
            monkeypatch.setattr(executor, "SMALLEST", 64)
            made.append(run_script(geo, text, each="face", backend="compiled"))
        made.append(run_script(geo, text, each="face", backend="vector"))
    assert made[0].digest == made[1].digest == made[2].digest
