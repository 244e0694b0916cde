"""Integers that grow too large, lists that would fill the memory, loops without a body, and what is in a list."""

import numpy as np
import pytest

from reticula.core import ops, run_script
from reticula.core.errors import FormulaError, LimitError
from reticula.core.language import script

BACKENDS = ["vector", "compiled"]
HUGE = 2**63 - 1


def value(text: str, backend: str) -> np.ndarray:
    return run_script(ops.grid(cells=(2, 2)), text, backend=backend).attribute("point", "a")  # type: ignore[arg-type]


@pytest.mark.parametrize("backend", BACKENDS)
@pytest.mark.parametrize("text", [f"index + {HUGE}", f"0 - index - {HUGE}", f"(index + 2) * {HUGE // 2 + 1}"])
def test_overflow_is_an_error(text: str, backend: str) -> None:
    with pytest.raises(FormulaError, match="more than 64 bits"):
        value(f"here.a = {text}", backend)
    guarded = value(f"here.a = {text} if index < 0 else 3", backend)
    assert guarded.tolist() == [3] * 9


@pytest.mark.parametrize("backend", BACKENDS)
def test_sums_of_lists_overflow_too(backend: str) -> None:
    for items in (
        f"[{HUGE}, index + 1]",
        f"[0 - {HUGE}, 0 - index, 0 - 5, 7]",
        f"[{HUGE // 3} for k in range(4 + index)]",
    ):
        with pytest.raises(FormulaError, match="more than 64 bits"):
            value(f"here.a = sum({items})", backend)
        assert value(f"here.a = sum({items}) if index < 0 else 3", backend).tolist() == [3] * 9
    assert (value(f"here.a = sum([{HUGE}, 0 - index, 0 - 5])", backend) == HUGE - 5 - np.arange(9)).all()


@pytest.mark.parametrize("backend", BACKENDS)
def test_the_largest_integers_are_fine(backend: str) -> None:
    assert (value(f"here.a = {HUGE} - index", backend) == HUGE - np.arange(9)).all()
    assert (value(f"here.a = {HUGE // 8} * index", backend) == HUGE // 8 * np.arange(9)).all()


@pytest.mark.parametrize("backend", BACKENDS)
def test_flags_are_numbers_and_members_are_found(backend: str) -> None:
    assert value("here.a = number(index > 4)", backend).tolist() == [0] * 5 + [1] * 4
    assert value("here.a = index in [1, 2, 7]", backend).tolist() == [n in (1, 2, 7) for n in range(9)]
    assert value("here.a = index * 2 not in range(6)", backend).tolist() == [n > 2 for n in range(9)]
    assert value("here.a = 'wet' in ['dry', 'wet']", backend).all()


def test_what_in_wants() -> None:
    with pytest.raises(FormulaError, match="on the right of 'in' stands a list"):
        value("here.a = index in 3", "vector")
    with pytest.raises(FormulaError, match="brackets around a test with 'in'"):
        value("here.a = 1 < index in [1, 2]", "vector")


@pytest.mark.parametrize("backend", BACKENDS)
@pytest.mark.parametrize(
    "text",
    ["here.a = len([n for n in range(3000000000)])", "v = [1.0]\nfor n in range(40):\n    v = v + v\nhere.a = len(v)"],
)
def test_lists_are_refused_before_they_are_built(text: str, backend: str) -> None:
    with pytest.raises((LimitError, FormulaError), match="a list would grow beyond 1,000,000 items"):
        value(text, backend)


@pytest.mark.parametrize("backend", BACKENDS)
def test_a_loop_without_a_body_ends_in_time(backend: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(script, "MOST_SECONDS", 0.3)
    with pytest.raises(LimitError, match="the most; a loop may never end"):
        value("for n in range(100000000000):\n    pass\nhere.a = 1", backend)
