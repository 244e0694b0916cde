"""Texts checked, generated and run for tests of single parts of the language."""

from __future__ import annotations

import pytest

from reticula.core import Geo
from reticula.core.errors import FormulaError
from reticula.core.geometry import TYPES
from reticula.core.language import ir
from reticula.core.language.compiled.emitted import Emitted
from reticula.core.language.compiled.executor import Job, emitted_or_none
from reticula.core.language.parse import parse
from reticula.core.language.scope import Scope
from reticula.core.language.script import Script, run_script
from reticula.core.language.typecheck import check_program
from reticula.core.language.types import UNKNOWN_LIST, ElementOf, ListOf, PlaceOf, Type
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, same, sheet

__all__ = ["agreed", "code_of", "expression", "named", "named_all", "program", "refused"]

INPUTS = {"reef": reef()}


def expression(text: str, kind: str = "point", **dials: object) -> ir.Expression:
    """The typed form of a formula on the sheet; it may ask the reef."""
    scope = Scope(sheet(), kind, dials, {"geo": sheet(), **INPUTS}, {}, {})  # type: ignore[arg-type]
    result = check_program(text, parse(text), scope).result
    assert result is not None
    return result


def program(text: str, each: str = "point") -> ir.Program:
    """A checked script on the sheet."""
    return Script(text, sheet(), each, inputs=INPUTS).program


def named(short: str) -> Type:
    """The type of a short form: ``number``, ``[vec3]``, ``point@reef``, ``place@reef.closest``."""
    if short.startswith("["):
        return UNKNOWN_LIST if short == "[?]" else ListOf(named(short[1:-1]))
    kind, at, owner = short.partition("@")
    if kind == "place":
        return PlaceOf(owner.partition(".")[0], owner.partition(".")[2])
    return ElementOf(kind, owner) if at else TYPES[short]  # type: ignore[arg-type]


def named_all(*short: str) -> tuple[Type, ...]:
    """The types of some short forms."""
    return tuple(named(one) for one in short)


def refused(text: str, each: str = "point") -> FormulaError:
    """The error of a script that does not check."""
    with pytest.raises(FormulaError) as caught:
        program(text, each)
    return caught.value


def code_of(text: str, each: str = "point") -> Emitted:
    """The kernel that is generated for a script."""
    script = Script(text, sheet(), each, inputs=INPUTS)
    emitted = emitted_or_none(Job(script.program, script.scope, script.elements()))
    assert emitted is not None
    return emitted


def agreed(text: str, each: str = "point") -> Geo:
    """The result of a script, after both back ends gave the same."""
    made = run_script(sheet(), text, each=each, inputs=INPUTS, backend="vector")
    same(made, run_interpreted(sheet(), text, each=each, inputs=INPUTS))
    return made
