"""What a script did becomes a geometry: own writes, what was given to others, what was made and removed."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormulaError, ReticulaError
from reticula.core.language.apply_effects import OwnWrites, apply_effects
from reticula.core.language.effects import Log
from reticula.core.language.script import run_script
from tests.core.language.studio import sheet

NOTHING = Log({}).finished()


def test_nothing_done_is_the_same_geometry() -> None:
    geo = sheet()
    assert apply_effects(geo, "point", {}, NOTHING).digest == geo.digest


def test_own_writes_of_all_or_some(notes: list[Note]) -> None:
    geo = sheet()
    by = np.ones(49, bool)
    made = apply_effects(geo, "point", {"a": OwnWrites("number", np.arange(49.0), by)}, NOTHING)
    assert made.attribute("point", "a").tolist() == list(range(49))
    assert notes[-1].text == "Wrote 'a' on all 49 points."
    by[10:] = False
    made = apply_effects(made, "point", {"a": OwnWrites("number", np.full(49, -1.0), by)}, NOTHING)
    assert notes[-1].text == "Set 10 points; 39 keep the value they had."


def test_a_number_that_is_none_names_the_attribute(notes: list[Note]) -> None:
    values = np.zeros(49)
    values[5] = np.nan
    with pytest.raises(ReticulaError, match=r"(?s)'a'.*5"):
        apply_effects(sheet(), "point", {"a": OwnWrites("number", values, np.ones(49, bool))}, NOTHING)


def test_faces_that_lose_a_point_go_and_what_is_left_keeps_its_name(notes: list[Note]) -> None:
    geo = sheet()
    made = run_script(geo, "if index == 0:\n    remove(here)")
    assert made.counts["faces"] == 35
    assert set(made.identity("face")) < set(geo.identity("face"))
    assert made.sources["point"].index.tolist() == list(range(1, 49))


def test_what_is_made_copies_its_maker_and_gets_what_it_is_given(notes: list[Note]) -> None:
    made = run_script(sheet(), "if index < 2:\n    p = add_point(position + normal, here)\n    p.mark = index + 7")
    assert made.attribute("point", "cover")[-2:].tolist() == sheet().attribute("point", "cover")[:2].tolist()
    assert made.attribute("point", "mark").tolist() == [0] * 49 + [7, 8]
    assert len(np.unique(made.identity("point"))) == 51


def test_several_who_set_the_same_are_told(notes: list[Note]) -> None:
    made = run_script(ops.grid(cells=(1, 1)), "for n in here.neighbours:\n    n.last = index")
    assert made.attribute("point", "last").tolist() == [2, 3, 3, 2]
    assert "'last' of 4 points was set by more than one element; the last one counts." in [e.text for e in notes]


def test_positions_of_faces_cannot_be_written() -> None:
    with pytest.raises(FormulaError, match="go through its points"):
        run_script(sheet(), "here.position = (0, 0, 0)", each="face")
