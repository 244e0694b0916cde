"""What emitters share: places numbered once, names of locals, and answers that hold on one way only."""

import pytest

from reticula.core.language import ir
from reticula.core.language.compiled.bindings import Bindings
from reticula.core.language.compiled.emitter_base import EmitterBase
from reticula.core.language.compiled.program_emitter import _ProgramEmitter
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.script import Script
from reticula.core.language.types import NUMBER, VEC3
from tests.core.language.programs.checked import INPUTS
from tests.core.language.studio import sheet


@pytest.fixture
def emitter() -> EmitterBase:
    script = Script("a = position\nhere.b = a", sheet(), inputs=INPUTS)
    return _ProgramEmitter(script.program, script.scope, Bindings(script.scope))


def test_a_place_has_one_number(emitter: EmitterBase) -> None:
    assert [emitter.place(place) for place in ((1, 1, 1), (2, 1, 1), (1, 1, 1))] == [0, 1, 0]


def test_a_local_has_one_name_per_component(emitter: EmitterBase) -> None:
    assert emitter.parts_of("a", VEC3) == ["v0_0", "v0_1", "v0_2"]
    assert emitter.named("a") == "v0"
    assert emitter.named("other") == "v1"


def test_what_is_asked_on_one_way_is_not_known_on_the_other(emitter: EmitterBase) -> None:
    question = ir.Query(NUMBER, (1, 1, 1), "reef", QUESTIONS["winding"], ())
    known_inside = []

    def ask() -> None:
        known_inside.append(question in emitter.answers)
        emitter.answers[question] = ["t1"]

    emitter.branches("test", ask, ask)
    assert known_inside == [False, False]
    assert question not in emitter.answers
