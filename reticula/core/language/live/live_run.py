"""Formulas and scripts run on one element, with all that is worked out on the way."""

from __future__ import annotations

import numpy as np

from reticula.core.errors import FormulaError, ReticulaError
from reticula.core.language import ir
from reticula.core.language.live.record import Block, Live
from reticula.core.language.live.watcher import Watcher
from reticula.core.language.live.words import seen_of
from reticula.core.language.parse import parse
from reticula.core.language.scope import Scope
from reticula.core.language.script import Script
from reticula.core.language.typecheck import check_program
from reticula.core.language.vector.clock import Clock
from reticula.core.language.vector.told import told_plain

__all__ = ["live_formula", "live_script"]

MOST_SECONDS = 10.0
"""Half of what a script may take: the first question of a process loads its kernels, and others may be at work."""


def live_formula(source: str, scope: Scope, element: int) -> Live:
    """Run a formula on one element of the scope's kind; an error that stops it is part of what is returned."""
    try:
        program = check_program(source, parse(source), scope)
    except FormulaError as error:
        return Live(Block(), error=error.details())
    return _run(program, scope, element)


def live_script(script: Script, element: int) -> Live:
    """Run a script on one of its elements; lines that declare controls tell their values."""
    live = _run(script.program, script.scope, element)
    for control in script.declared.controls:
        value = script.scope.dials.get(control.name)
        if value is not None:
            live.block.lines[control.place[0]] = told_plain(value, quoted=True)
    return live


def _run(program: ir.Program, scope: Scope, element: int) -> Live:
    runner = Watcher(program, scope, element, Clock(MOST_SECONDS))
    error, result = None, None
    try:
        runner.go()
        runner.rows = None
        if program.result is not None:
            with np.errstate(all="ignore"):
                result = seen_of(runner.run(program.result), 0, program.result.type)
            runner.whole.lines[program.result.place[0]] = result.text
    except ReticulaError as stopped:
        error = stopped.details()
    return Live(runner.whole, list(runner.notes.readings), error, runner.notes.left <= 0, result)
