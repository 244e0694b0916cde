"""Scripts are hostile until proven otherwise: every one of these is refused in words, or stays within its limits."""

from __future__ import annotations

import time

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormulaError, LimitError, ReticulaError
from reticula.core.language import evaluate
from reticula.core.language import script as scripts
from reticula.core.language.script import Script, run_script
from tests.core.language.hostile_scripts import REFUSED, RUNAWAY, TAME
from tests.core.language.programs.generating import program
from tests.helpers import examples


@pytest.fixture(scope="module")
def sheet() -> Geo:
    return ops.grid(cells=(3, 3)).with_attribute("point", "cover", [0.5] * 16)


def test_the_corpus_is_large() -> None:
    assert len(REFUSED) + len(RUNAWAY) + len(TAME) >= 100


@pytest.mark.parametrize("text", REFUSED, ids=lambda text: text[:40].encode("unicode_escape").decode())
def test_refused_with_a_place(sheet: Geo, text: str) -> None:
    with pytest.raises(FormulaError) as caught:
        Script(text, sheet)
    assert caught.value.line >= 1
    assert caught.value.column >= 1
    assert caught.value.plain
    assert "Traceback" not in str(caught.value)


@pytest.mark.parametrize("text", [text.removeprefix("here.a = ") for text in REFUSED if text.startswith("here.a = ")])
def test_formulas_refuse_the_same(sheet: Geo, text: str) -> None:
    with pytest.raises(FormulaError):
        evaluate(text, sheet, "point", "number")


@pytest.mark.parametrize("text", RUNAWAY)
def test_runaways_end(sheet: Geo, text: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scripts, "MOST_SECONDS", 1.0)
    begin = time.monotonic()
    with pytest.raises((LimitError, FormulaError)):
        run_script(Geo.of([[0, 0, 0]]).with_attribute("point", "cover", [0.5]), text, backend="vector")
    assert time.monotonic() - begin < 20


@pytest.mark.parametrize("text", [RUNAWAY[1], RUNAWAY[3], RUNAWAY[6]])
def test_compiled_runaways_end(text: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scripts, "MOST_SECONDS", 0.5)
    with pytest.raises((LimitError, FormulaError)):
        run_script(Geo.of([[0, 0, 0]]), text, backend="compiled")


@pytest.mark.parametrize(("text", "message"), TAME)
def test_numbers_stay_tame(sheet: Geo, text: str, message: str | None) -> None:
    with collecting():
        if message is None:
            run_script(sheet, text, backend="vector")
            return
        with pytest.raises(FormulaError, match=message):
            run_script(sheet, text, backend="vector")


LETTERS = st.text(
    alphabet="here.position()[]{}:=+-*/%<>!'\"\\ \n\t0123456789ifforwhile_,@#~^&|\u00e9\u202e\x00", max_size=60
)


@given(LETTERS)
@settings(max_examples=examples(400), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_any_letters_are_read_or_refused(sheet: Geo, text: str) -> None:
    for read in (lambda: Script(text, sheet), lambda: evaluate(text, sheet, "point")):
        try:
            read()
        except ReticulaError as error:
            assert str(error)


@given(st.integers(0, 3000), st.data())
@settings(max_examples=examples(250), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_damaged_programs_are_read_or_refused(sheet: Geo, seed: int, data: st.DataObject) -> None:
    """Lines swapped, cut and doubled, letters replaced: the checker never fails in another way."""
    text = program(seed)
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(0, max(len(text) - 1, 0)))
        way = data.draw(st.sampled_from(["cut", "put", "line", "name"]))
        if way == "cut":
            text = text[:at] + text[at + data.draw(st.integers(1, 5)) :]
        elif way == "put":
            text = (
                text[:at]
                + data.draw(st.sampled_from(list("()[].:=\n ,+*0x") + ["here", "len(", "position"]))
                + text[at:]
            )
        elif way == "line":
            lines = text.split("\n")
            lines.insert(data.draw(st.integers(0, len(lines))), data.draw(st.sampled_from(lines)))
            text = "\n".join(lines)
        else:
            text = text.replace(
                "total", data.draw(st.sampled_from(["position", "here", "crest", "e", "noise", "cover"])), 1
            )
    try:
        Script(text, sheet.with_attribute("point", "heat", [0.0] * 16).with_attribute("point", "crest", [True] * 16))
    except ReticulaError as error:
        assert str(error)
