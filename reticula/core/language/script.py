"""Scripts: statements that run on every element of a kind, or once, and give a new geometry."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Literal, cast

import numpy as np

from reticula.core.arrays import AnyArray, Ints
from reticula.core.diagnostics import note
from reticula.core.errors import FormulaError
from reticula.core.geometry.edit.placement import in_space_of
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.language import ir
from reticula.core.language.apply_effects import OwnWrites, apply_effects
from reticula.core.language.before import with_before, without_before
from reticula.core.language.compiled import Job, run_job
from reticula.core.language.controls import Declared, declared, statements_of
from reticula.core.language.effects import Effects, Log
from reticula.core.language.limits import BLOCK, MOST_SECONDS
from reticula.core.language.parse import parse_script
from reticula.core.language.profiles import profile_of
from reticula.core.language.scope import Scope
from reticula.core.language.typecheck import check_program
from reticula.core.language.types import Type
from reticula.core.language.vector.clock import Clock
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.statements import ProgramRunner

__all__ = ["EACH", "Script", "run_script"]

EACH: tuple[str, ...] = ("point", "edge", "corner", "face", "curve", "piece", "once")
"""What a script can run on."""
Backend = Literal["auto", "vector", "compiled"]


class Script:
    """A script checked against the geometries that it runs on; ``before`` is the first one as it was one frame ago.

    Raises FormulaError if it does not fit them.
    """

    def __init__(
        self,
        source: str,
        geo: Geo,
        each: str = "point",
        *,
        inputs: Mapping[str, Geo | None] | None = None,
        controls: Mapping[str, Any] | None = None,
        dials: Mapping[str, Any] | None = None,
        ties: Mapping[str, Mapping[str, Any]] | None = None,
        before: Geo | None = None,
    ) -> None:
        if each not in EACH:
            raise FormulaError(f"a script runs on each {', '.join(EACH[:-1])}, or once; not '{each}'")
        self.kind: Kind = "whole" if each == "once" else "point" if each == "piece" else cast(Kind, each)
        assert self.kind in KINDS
        source, geo, self.stand_ins = with_before(source, geo, self.kind, before)
        self.source, self.geo, self.each = source, geo, each
        self.declared: Declared = declared(source)
        values = {control.name: control.default for control in self.declared.controls}
        values |= {name: value for name, value in (controls or {}).items() if name in values}
        values |= {c.name: float(values[c.name]) for c in self.declared.controls if c.what == "number"}
        profiles = {
            c.name: profile_of(c.what, values.pop(c.name))
            for c in self.declared.controls
            if c.what in ("curve", "gradient")
        }
        named = {entry.name: (inputs or {}).get(entry.name) for entry in self.declared.inputs}
        self.scope = Scope(geo, self.kind, {**(dials or {}), **values}, {"geo": geo, **named}, ties or {}, profiles)
        parsed = parse_script(source)
        self.program: ir.Program = check_program(source, parsed, self.scope, statements_of(parsed))

    def elements(self) -> Ints:
        """The numbers of the elements that it runs on."""
        if self.each == "piece":
            return first_of_pieces(self.geo)
        return np.arange(self.geo.topology.count(self.kind))

    def run(self, *, stop: Callable[[], bool] | None = None, backend: Backend = "auto") -> Geo:
        """Return the geometry after the script."""
        job = Job(self.program, self.scope, self.elements())
        own, effects = run_job(job, Clock(MOST_SECONDS, stop), self.on_vectors, backend)
        return without_before(apply_effects(self.geo, self.kind, own, effects), self.kind, self.stand_ins)

    def on_vectors(self, clock: Clock) -> tuple[dict[str, OwnWrites], Effects]:
        """Run on the vector back end, block by block."""
        log = Log(self.program.adds)
        elements = self.elements()
        parts: list[ProgramRunner] = []
        for begin in range(0, max(len(elements), 1), BLOCK):
            block = elements[begin : begin + BLOCK]
            runner = ProgramRunner(self.program, self.scope, block, log=log, clock=clock)
            runner.go()
            parts.append(runner)
        total = self.geo.topology.count(self.kind)
        own = {name: gather_pieces(name, type, parts, elements, total) for name, type in self.program.writes.items()}
        return own, log.finished()

    def printed(self, elements: AnyArray, *, seconds: float = 2.0) -> list[str]:
        """Return what the script prints for some elements."""
        lines: list[str] = []
        chosen = np.intersect1d(self.elements(), elements)
        clock = Clock(seconds)
        for one in chosen:
            begin = len(lines)
            runner = ProgramRunner(
                self.program,
                self.scope,
                np.array([one]),
                printed=lines,
                clock=clock,
                log=Log(self.program.adds),
            )
            runner.go()
            if len(chosen) > 1:
                lines[begin:] = [f"{self.kind} {one}: {line}" for line in lines[begin:]]
        return lines


def first_of_pieces(geo: Geo) -> Ints:
    """Return the first point of each piece, in the order of pieces."""
    return np.unique(geo.topology.point_piece, return_index=True)[1]


def gather_pieces(name: str, type: Type, parts: list[ProgramRunner], elements: Ints, total: int) -> OwnWrites:
    """Put together what the blocks wrote."""
    by = np.zeros(total, bool)
    by[elements] = np.concatenate([part.own_values[name].written for part in parts])
    values = [part.own_values[name].values for part in parts]
    if isinstance(values[0], Lists):
        lists = [value.content for value in values]
        sizes = np.zeros(total, np.int64)
        sizes[elements] = np.concatenate([np.diff(start) for start, _ in lists])
        return OwnWrites(type, (np.concatenate([[0], np.cumsum(sizes)]), np.concatenate([v for _, v in lists])), by)
    joined = np.concatenate(values)
    if len(elements) != total:
        whole = np.zeros((total, *joined.shape[1:]), joined.dtype)
        whole[elements] = joined
        joined = whole
    return OwnWrites(type, joined, by)


def run_script(
    geo: Geo,
    source: str,
    *,
    each: str = "point",
    inputs: Mapping[str, Geo | None] | None = None,
    controls: Mapping[str, Any] | None = None,
    backend: Backend = "auto",
    stop: Callable[[], bool] | None = None,
) -> Geo:
    """Run a script on a geometry.

    Parameters
    ----------
    geo : Geo
        What it runs on.
    source : str
        Its text; ``docs/language.md`` has the language.
    each : {'point', 'edge', 'corner', 'face', 'curve', 'piece', 'once'}
        On which elements.
    inputs : Mapping[str, Geo | None], optional
        The geometries that it declares, by name, seen as they stand in the space of ``geo``.
    controls : Mapping[str, Any], optional
        Values of its controls, by name; their defaults, if left out.
    backend : {'auto', 'vector', 'compiled'}
        How it is worked out; the results are the same to the bit.
    stop : Callable[[], bool], optional
        Asked now and then; true ends the run.

    Returns
    -------
    Geo
        The geometry after all elements have run.

    Raises
    ------
    FormulaError
        If the script cannot run: what is wrong, in which line and column.
    LimitError
        If it runs for too long or makes too much.

    Examples
    --------
    >>> from reticula.core import ops
    >>> text = "lift: number(0, 1) = 0.1\\nhere.position = position + normal * lift"
    >>> run_script(ops.grid(), text, controls={"lift": 0.25}).bounds.tolist()
    [[-0.5, 0.25, -0.5], [0.5, 0.25, 0.5]]
    """
    seen = {name: None if other is None else in_space_of(other, geo) for name, other in (inputs or {}).items()}
    script = Script(source, geo, each, inputs=seen, controls=controls)
    for name in controls or {}:
        if name not in {control.name for control in script.declared.controls}:
            note(f"The script has no control '{name}'; its value is not used.")
    return script.run(stop=stop, backend=backend)
