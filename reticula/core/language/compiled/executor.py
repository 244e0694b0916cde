"""Runs a compiled kernel on all cores, in chunks of elements, and gathers what it did."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait
from dataclasses import dataclass, field
from functools import cache
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Ints
from reticula.core.errors import FormulaError
from reticula.core.geometry.mesh.attribute_types import AttributeType, well_known_default
from reticula.core.language import ir
from reticula.core.language.apply_effects import OwnWrites
from reticula.core.language.compiled.bindings import Texts
from reticula.core.language.compiled.code_writer import Unsupported
from reticula.core.language.compiled.emitted import Emitted, LogColumn
from reticula.core.language.compiled.kernel_store import builder
from reticula.core.language.compiled.program_emitter import emit_program
from reticula.core.language.compiled.runtime import AT_ELEMENT, CODES, FULL, STOPPED, Halt
from reticula.core.language.effects import NOBODY, Effects, Log, add_name, exceeds_limit
from reticula.core.language.limits import MOST_GIVEN
from reticula.core.language.scope import Scope
from reticula.core.language.types import TEXT, ListOf, Type, kernel_dtype, width_of
from reticula.core.language.vector.clock import Clock

__all__ = ["Job", "Kernel", "emitted_or_none", "run_job"]

CHUNKS = 64
SMALLEST = 512
LOOK = 0.05
PATIENCE = 0.25
"""Seconds after which a run on the vector back end has its kernel built, and how often it then looks."""
WORTH_BUILDING = 0.1
"""Seconds that a run must have taken for its kernel to be built for the next one."""


@dataclass
class Chunk:
    """Some elements of a run: where they begin and end, room in each log, and what came out."""

    begin: int
    end: int
    room: list[int]
    err: AnyArray = field(default_factory=lambda: np.zeros(5, np.int64))
    made: AnyArray = field(default_factory=lambda: np.zeros(1, np.int64))
    logs: dict[str, AnyArray] = field(default_factory=dict)


@dataclass(frozen=True)
class Kernel:
    """A kernel that is built, for one script."""

    emitted: Emitted
    call: Any

    def run(self, job: Job, clock: Clock) -> tuple[dict[str, OwnWrites], Effects]:
        """Run for all elements of a job; raises what the script does wrong, LimitError or Stopped."""
        return _Run(self, job, clock).finish()


@dataclass(frozen=True)
class Job:
    """A checked program, what it runs on, and the numbers of the elements."""

    program: ir.Program
    scope: Scope
    elements: Ints


class Switch(Exception):
    """The kernel is built while the vector back end is still at work: go over to it."""

    def __init__(self, kernel: Kernel) -> None:
        super().__init__()
        self.kernel = kernel


class SwitchingClock(Clock):
    """A clock for the vector back end that has the kernel built once the run takes long, and goes over to it."""

    def __init__(self, clock: Clock, emitted: Emitted) -> None:
        super().__init__(clock.limit, clock.stop)
        self.end = clock.end
        self.emitted = emitted
        self.begin = self.next = time.monotonic()

    def look(self) -> None:
        super().look()
        now = time.monotonic()
        if now - self.next > PATIENCE:
            self.next = now
            builder().ask_for(self.emitted)
            call = builder().find(self.emitted)
            if call is not None:
                raise Switch(Kernel(self.emitted, call))


def emitted_or_none(job: Job) -> Emitted | None:
    """Return the generated kernel of a job; None if only the vector back end can do it."""
    try:
        return emit_program(job.program, job.scope)
    except Unsupported:
        return None


def run_job(
    job: Job, clock: Clock, on_vectors: Callable[[Clock], tuple[dict[str, OwnWrites], Effects]], backend: str = "auto"
) -> tuple[dict[str, OwnWrites], Effects]:
    """Run a job on the compiled back end if its kernel is built, else on the vector one, while the kernel is being
    built.

    ``backend`` is ``auto``, or ``vector`` or ``compiled`` for one of them alone.
    """
    emitted = None if backend == "vector" else emitted_or_none(job)
    if emitted is None:
        return on_vectors(clock)
    call = builder().build_now(emitted) if backend == "compiled" else builder().find(emitted)
    if call is not None:
        return Kernel(emitted, call).run(job, clock)
    watched = SwitchingClock(clock, emitted)
    try:
        done = on_vectors(watched)
    except Switch as switch:
        return switch.kernel.run(job, clock)
    if time.monotonic() - watched.begin > WORTH_BUILDING:
        builder().ask_for(emitted)
    return done


@cache
def _threads() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(os.cpu_count() or 1, "kernel")


class _Run:
    def __init__(self, kernel: Kernel, job: Job, clock: Clock) -> None:
        self.kernel, self.job, self.clock = kernel, job, clock
        self.geo, self.kind = job.scope.geo, job.scope.kind
        self.emitted = kernel.emitted
        self.elements = np.ascontiguousarray(job.elements, np.int64)
        self.texts = Texts()
        self.texts.code("")
        self.stop = np.zeros(1, np.int64)
        self.total = self.geo.topology.count(self.kind)
        self.own = {name: self._before(name, type) for name, (_, _, type) in self.emitted.owns.items()}
        self.kept = {name: values.copy() for name, (values, _) in self.own.items()} if self.emitted.log else {}
        self.arguments = [bound.fetch(self.texts) for bound in self.emitted.arguments.values()]

    def _before(self, name: str, type: Type) -> tuple[AnyArray, AnyArray]:
        geo, kind = self.geo, self.kind
        dtype = kernel_dtype(type)
        shape = (self.total, width_of(type)) if width_of(type) > 1 else (self.total,)
        values: AnyArray = np.zeros(shape, dtype)
        known = well_known_default(name, str(type))
        if geo.has(kind, name):
            old = geo.find(kind, name).values
            values[...] = self.texts.encoded(old) if type is TEXT else old.reshape(shape)
        elif known is not None:
            values[...] = known
        return values, np.zeros(self.total, np.bool_)

    def chunks(self) -> list[Chunk]:
        size = max(SMALLEST, -(-len(self.elements) // CHUNKS))
        room = [4 * min(size, max(len(self.elements), 1)) + 1024] * self.emitted.counters
        return [
            Chunk(begin, min(begin + size, len(self.elements)), list(room))
            for begin in range(0, len(self.elements), size)
        ]

    def work(self, chunk: Chunk) -> None:
        """Run one chunk; again with more room if a log was full."""
        while True:
            chunk.err[:] = 0
            chunk.made = np.zeros(self.emitted.counters, np.int64)
            chunk.logs = {column.name: _room(column, chunk.room[column.counter]) for column in self.emitted.log}
            owns = [array for pair in self.own.values() for array in pair]
            try:
                self.kernel.call(
                    chunk.begin,
                    chunk.end,
                    self.elements,
                    chunk.err,
                    self.stop,
                    chunk.made,
                    *chunk.logs.values(),
                    *owns,
                    *self.arguments,
                )
                return
            except Halt:
                if chunk.err[0] != FULL:
                    return
            number = int(chunk.err[1])
            if chunk.room[number] > MOST_GIVEN:
                raise exceeds_limit()
            chunk.room[number] *= 4
            rows = self.elements[chunk.begin : chunk.end]
            for name, (values, written) in self.own.items():
                values[rows], written[rows] = self.kept[name][rows], False

    def finish(self) -> tuple[dict[str, OwnWrites], Effects]:
        chunks = self.chunks()
        self.work_on_all(chunks)
        for chunk in chunks:
            if chunk.err[0] not in (0, STOPPED):
                self.fail(chunk.err)
        log, lists = self.gathered(chunks)
        own = {
            name: OwnWrites(type, self.decoded(name, type), self.own[name][1])
            for name, (_, _, type) in self.emitted.owns.items()
        }
        done = {**own, **lists}
        return {name: done[name] for name in self.job.program.writes}, log.finished()

    def work_on_all(self, chunks: list[Chunk]) -> None:
        """Let each core take one chunk after the other; look at the clock meanwhile."""
        waiting = iter(chunks)
        taking = threading.Lock()

        def work() -> None:
            while not self.stop[0]:
                with taking:
                    chunk = next(waiting, None)
                if chunk is None:
                    return
                self.work(chunk)

        left: set[Future[None]] = {_threads().submit(work) for _ in range(min(len(chunks), os.cpu_count() or 1))}
        try:
            while left:
                done, left = wait(left, timeout=LOOK)
                for future in done:
                    future.result()
                if left:
                    self.clock.look()
        except BaseException:  # whatever it is, the work must end before it is passed on
            self.stop[0] = 1
            wait(left)
            raise

    def fail(self, err: AnyArray) -> None:
        code, place, element, first, second = err.tolist()
        line, column, length = self.emitted.places[place]
        message = CODES[code].format(first, second, chain="face" if second == 3 else "curve")
        if self.kind != "whole" and code in AT_ELEMENT:
            message += f" ({self.kind} {element})"
        raise FormulaError(message, line=line, column=column, length=length)

    def decoded(self, name: str, type: Type) -> AnyArray:
        values = self.own[name][0]
        if type is TEXT:
            return self.texts.decoded(values)
        return values.reshape(len(values), *type.shape) if isinstance(type, AttributeType) else values

    def gathered(self, chunks: list[Chunk]) -> tuple[Log, dict[str, OwnWrites]]:
        """Put the logs of all chunks together, in the order of the elements."""
        log = Log(self.job.program.adds)
        lists: dict[str, list[tuple[AnyArray, AnyArray, AnyArray]]] = {name: [] for name in self.emitted.list_writes}
        for chunk in chunks:
            self.gather(chunk, log, lists)
        return log, {name: self.joined(name, parts) for name, parts in lists.items()}

    def gather(self, chunk: Chunk, log: Log, lists: dict[str, list[tuple[AnyArray, AnyArray, AnyArray]]]) -> None:
        def column(name: str) -> AnyArray:
            counter = next(c.counter for c in self.emitted.log if c.name == name)
            return chunk.logs[name][: chunk.made[counter]]

        base = dict(log.made)

        def handles(kind: str, values: AnyArray) -> AnyArray:
            if not base.get(kind):
                return values
            return np.where((values < 0) & (values != NOBODY), values - base[kind], values)

        if "pt_by" in chunk.logs:
            log.number("point", len(column("pt_by")))
            log.note("point", column("pt_by"), column("pt_pos"), handles("point", column("pt_like")))
        for kind in self.emitted.chains:
            stem = "cv" if kind == "curve" else "fc"
            log.number(kind, len(column(f"{stem}_by")))
            log.note(kind, column(f"{stem}_by"), column(f"{stem}_size"), column(f"{stem}_closed"))
            log.note(f"{kind} points", handles("point", column(f"{stem}_points")))
        if "rm_by" in chunk.logs:
            which = column("rm_which")
            for number, kind in ((0, "point"), (2, "face"), (3, "curve")):
                chosen = column("rm_kind") == number
                which[chosen] = handles(kind, which[chosen])
            log.note("remove", column("rm_by"), column("rm_kind"), which)
        for number, key in enumerate(self.emitted.adds):
            value = column(f"ad{number}_val")
            if self.job.program.adds[key] is TEXT:
                value = self.texts.decoded(value)
            log.note(add_name(key), column(f"ad{number}_by"), handles(key[0], column(f"ad{number}_to")), value)
        for number, name in enumerate(self.emitted.list_writes):
            lists[name].append((column(f"lw{number}_by"), column(f"lw{number}_size"), column(f"lw{number}_val")))

    def joined(self, name: str, parts: list[tuple[AnyArray, AnyArray, AnyArray]]) -> OwnWrites:
        """A list attribute: what was written, and what was there before elsewhere."""
        type = self.job.program.writes[name]
        by, size, values = (np.concatenate(column) for column in zip(*parts, strict=True))
        if type == ListOf(TEXT):
            values = self.texts.decoded(values)
        written = np.zeros(self.total, bool)
        written[by] = True
        sizes = np.zeros(self.total, np.int64)
        sizes[by] = size
        return OwnWrites(type, (np.concatenate([[0], np.cumsum(sizes)]), values), written)


def _room(column: LogColumn, room: int) -> AnyArray:
    shape = (room, column.width) if column.width else (room,)
    return np.empty(shape, column.dtype)
