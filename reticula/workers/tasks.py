"""The work that an evaluator process does. Runs inside that process; see :mod:`reticula.workers.pool`."""

from __future__ import annotations

import os
import shutil
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, cast
from uuid import uuid4

from reticula.contract.answers import LookAnswer
from reticula.contract.explanations import LookTrouble
from reticula.contract.queries import DifferenceQuery, LiveQuery, LookQuery, TraceQuery, WhyQuery, WiresQuery
from reticula.core.context import using
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError, ReticulaError
from reticula.core.formats import format_of, read_file, write_bytes
from reticula.core.geometry import Geo
from reticula.core.graph import Cache, Evaluation, Evaluator, NodeResult, split_feed
from reticula.core.graph.editing.levels import inner_level
from reticula.core.graph.evaluation.spill import SpillFiles
from reticula.core.graph.inspection.followed import sample_followed
from reticula.core.graph.inspection.text_inspection import inspect_text
from reticula.core.graph.inspection.time_dependence import keyed_values, timely_nodes
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.reports.summary import describe_geo, element_counts
from reticula.core.spans import recording, span
from reticula.workers.buffers import BufferFiles
from reticula.workers.check_counts import CheckCounts
from reticula.workers.comparison import difference
from reticula.workers.drawn import DRAWN, drawn_file
from reticula.workers.explanations import explain
from reticula.workers.films import join_film
from reticula.workers.making import made
from reticula.workers.package_jobs import PACKAGE_JOBS, publication
from reticula.workers.result_queries import look
from reticula.workers.row_files import read_table
from reticula.workers.sheet_files import unpack_sheet

__all__ = ["Job", "StoredShapes", "Worker", "spill_folder"]


SPILL = 2
"""How many times as many bytes as in memory an evaluator keeps on disk."""


def spill_folder(buffers: Path) -> Path:
    """Return where this process keeps results on disk, beside the buffers; folders of processes that ended are
    deleted.
    """
    folder = buffers.with_name("kept")
    for entry in folder.iterdir() if folder.is_dir() else ():
        if not Path("/proc", entry.name).exists():
            shutil.rmtree(entry, ignore_errors=True)
    return folder / str(os.getpid())


@dataclass(frozen=True)
class Job:
    """One piece of work: ``evaluate`` a document and look at some nodes, ``export`` one, or ``examine`` a file.

    ``shapes`` maps names to (path, digest). ``queries`` are looks at ``node``'s result. ``inspect`` tells what ``text``
    (parameter, source, elements) means as a parameter of ``node``. ``publish`` prepares the definition of a folded node
    from ``about`` (and ``stored``, see :func:`reticula.core.packages.prepare`). ``level`` leads to the graph inside a
    node, ``frame`` is the moment; no ``targets`` are all nodes, ``node`` first; ``library`` has the definitions of the
    published operators that are used.
    ``make`` evaluates ``node``, notes ``about["numbers"]`` of it and writes it as ``file_name`` if there is one, and
    what draws it small if ``about["drawn"]``, see :func:`reticula.workers.making.made`; ``dials`` and ``inputs`` (names
    of shapes) are what it is made from. ``rows`` reads the table at ``about["path"]``, of ``about["most"]`` rows.
    ``moments`` are earlier documents, by revision, with what they need. ``check`` counts what is wrong with each
    node's result. ``film`` joins pictures (``about``: pictures, target, rate), ``follow`` samples a dial that
    follows a table (``about``: name, dial, frames). ``review`` and ``unpack`` read the
    package at ``about["path"]``, see :mod:`reticula.workers.package_jobs`; ``bring`` reads the proof sheet there, and
    puts its pictures into the folder ``about["unpacked"]``.
    """

    what: str
    document: dict[str, Any] = field(default_factory=dict)
    shapes: dict[str, tuple[str, str]] = field(default_factory=dict)
    node: str | None = None
    targets: list[str] | None = None
    queries: Sequence[LookQuery] = ()
    file_name: str = ""
    text: dict[str, Any] = field(default_factory=dict)
    options: dict[str, str] = field(default_factory=dict)
    level: str = ""
    frame: float | None = None
    library: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    about: dict[str, Any] = field(default_factory=dict)
    dials: Mapping[str, Any] = field(default_factory=dict)
    inputs: Mapping[str, str] = field(default_factory=dict)
    moments: dict[int, Job] = field(default_factory=dict)


Again = Callable[[Job], Evaluation]


class StoredShapes:
    """Shapes of a project, read from the asset folder and kept while the process lives."""

    def __init__(self, shapes: dict[str, tuple[str, str]], kept: dict[str, Geo]) -> None:
        self.shapes = shapes
        self.kept = kept

    def key(self, name: str) -> str:
        return self._find(name)[1]

    def load(self, name: str, *, error: float = 0.0) -> Geo:
        path, digest = self._find(name)
        key = f"{digest} {error:g}" if format_of(path).tolerance else digest
        if key not in self.kept:
            while len(self.kept) > 7:
                del self.kept[next(iter(self.kept))]
            self.kept[key] = read_file(path, error=error)
        return self.kept[key]

    def _find(self, name: str) -> tuple[str, str]:
        if name not in self.shapes:
            there = ", ".join(sorted(self.shapes)) or "none yet; drop a mesh file on the page to add one"
            raise GeometryError(f"the project has no shape '{name}'; it has {there}")
        return self.shapes[name]


class Worker:
    """Does jobs one after the other; its cache makes the next one fast."""

    def __init__(self, buffers: BufferFiles, cache_bytes: int) -> None:
        self.buffers = buffers
        spill = SpillFiles(spill_folder(buffers.folder), SPILL * cache_bytes)
        self.evaluator = Evaluator(Cache(cache_bytes, spill))
        self.kept: dict[str, Geo] = {}
        self.checks = CheckCounts()

    def do(
        self, job: Job, on_progress: Callable[[int, int, str], None], should_stop: Callable[[], bool]
    ) -> dict[str, Any]:
        """Return the job's result as plain data; raises ReticulaError if the job as a whole cannot be done."""
        if job.what == "examine":
            return self._examine(job)
        if job.what == "film":
            paths = Path(job.about["pictures"]), Path(job.about["target"])
            return {"pictures": join_film(*paths, job.about["rate"], _now_and_then(on_progress), should_stop)}
        if job.what == "bring":
            return unpack_sheet(Path(job.about["path"]), Path(job.about["unpacked"]))
        if job.what == "rows":
            return {"rows": read_table(Path(job.about["path"]), job.about["most"])}
        shapes, library = self._shapes(job), MemoryLibrary(job.library)
        if job.what == "follow":
            with using(library=library, resources=shapes), collecting():
                return sample_followed(job.document, job.about["name"], job.about["dial"], job.about["frames"])
        if job.what == "publish":
            with using(library=library), collecting():
                return publication(job.document, job.level, str(job.node), dict(job.about), shapes)
        if job.what in PACKAGE_JOBS:
            with using(library=library), collecting():
                return PACKAGE_JOBS[job.what](job.about)
        tell = _now_and_then(on_progress)
        done = self._evaluate(job, tell, should_stop)
        if job.what == "make":
            return made(done, str(job.node), job.about.get("numbers", {}), self._writes(job))
        if job.what == "check":
            with using(library=library, resources=shapes):
                return {"nodes": self.checks.of(done, should_stop)}
        if job.what == "inspect":
            with using(library=library, resources=shapes, moment=done.moment):
                return inspect_text(done, str(job.node), **job.text)
        if job.what == "export":
            return self._export(done.geo(str(job.node)), job)
        looks: list[LookAnswer] = []
        looked_at, output = split_feed(job.node or "")
        found = done.nodes.get(looked_at)
        geo = (found.outputs.get(output) if output else found.geo) if found else None
        with recording() as looking:
            for query in job.queries:
                if geo is None and not isinstance(query, LiveQuery):
                    looks.append({"what": "missing", "missing": True})
                    continue
                try:
                    looks.append(
                        self._look(done, job, geo, query, lambda again: self._evaluate(again, tell, should_stop))
                    )
                except ReticulaError as error:
                    looks.append({"what": "error", "error": cast(LookTrouble, error.details())})
        before = {
            name: done.geo(feed)
            for name, node in done.document["nodes"].items()
            for feed in next(iter([f for f in node.get("inputs", {}).values() if f]), [])[:1]
            if done.has(name) and done.has(feed)
        }
        with using(library=library, resources=shapes):
            stored = inner_level(job.document, job.level, job.library)
            timely = timely_nodes(job.document, job.level, self.evaluator.store, done.plan)
            keyed = keyed_values(stored, done, inside=bool(job.level))
        return {
            "timely": sorted(timely),
            "keyed": dict(zip(("nodes", "dials"), keyed, strict=True)),
            "nodes": {name: _report(found, before.get(name)) for name, found in done.nodes.items()},
            "node": job.node,
            "looks": looks,
            "looking": looking.sums,
        }

    def _look(self, done: Evaluation, job: Job, geo: Geo | None, query: LookQuery, evaluate: Again) -> LookAnswer:
        """Answer a question; some need more than one node."""
        with span(f"look {query.what}"):
            return self._answer(done, job, geo, query, evaluate)

    def _answer(self, done: Evaluation, job: Job, geo: Geo | None, query: LookQuery, evaluate: Again) -> LookAnswer:
        if isinstance(query, (TraceQuery, LiveQuery, WiresQuery, WhyQuery)):
            with using(library=MemoryLibrary(job.library), resources=self._shapes(job), moment=done.moment):

                def frame_before(feed: str) -> Geo | None:
                    frame = float(done.moment["frame"]) - 1.0 if done.moment else None
                    earlier = evaluate(replace(job, frame=frame, targets=[feed], queries=()))
                    return earlier.geo(feed) if earlier.has(feed) else None

                return explain(done, str(job.node), query, frame_before)
        assert geo is not None
        if isinstance(query, DifferenceQuery):
            if query.at is not None:
                if query.at not in job.moments:
                    raise GeometryError("an earlier moment is compared with by a look, not by an evaluation")
                done = evaluate(replace(job.moments[query.at], targets=[str(query.to)]))
            return difference(geo, done.geo(str(query.to)), self.buffers)
        return look(geo, query, self.buffers)

    def _evaluate(self, job: Job, tell: Callable[[int, int, str], None], should_stop: Callable[[], bool]) -> Evaluation:
        return self.evaluator.evaluate(
            job.document,
            targets=job.targets,
            first=job.node if job.targets is None else None,
            level=job.level,
            frame=job.frame,
            dials=job.dials,
            inputs={name: self._shapes(job).load(shape) for name, shape in job.inputs.items()},
            shapes=self._shapes(job),
            operators=MemoryLibrary(job.library),
            on_progress=tell,
            should_stop=should_stop,
        )

    def _shapes(self, job: Job) -> StoredShapes:
        return StoredShapes(job.shapes, self.kept)

    def _examine(self, job: Job) -> dict[str, Any]:
        path, _ = job.shapes[job.file_name]
        with collecting() as notes:
            geo = read_file(path)
        return {**describe_geo(geo), "notes": [note.text for note in notes]}

    def _writes(self, job: Job) -> dict[str, Callable[[Geo], Path]]:
        """Return what writes a ``file`` of the job's format, and what writes how a geometry is ``drawn`` small."""

        def keeping(ending: str, data_of: Callable[[Geo], bytes]) -> Callable[[Geo], Path]:
            def write(geo: Geo) -> Path:
                path = self.buffers.folder / f"made-{uuid4().hex}{ending}"
                path.write_bytes(data_of(geo))
                return path

            return write

        wanted: dict[str, Callable[[Geo], Path]] = {}
        if job.file_name:
            file = keeping(Path(job.file_name).suffix, lambda geo: write_bytes(geo, job.file_name, **job.options))
            wanted["file"] = file
        if job.about.get("drawn"):
            wanted["drawn"] = keeping(DRAWN, drawn_file)
        return wanted

    def _export(self, geo: Geo, job: Job) -> dict[str, Any]:
        with collecting() as notes:
            data = write_bytes(geo, job.file_name, **job.options)
        path = self.buffers.folder / f"export-{id(data):x}-{Path(job.file_name).suffix.lstrip('.')}"
        path.write_bytes(data)
        return {"path": str(path), "notes": [note.text for note in notes]}


def _now_and_then(tell: Callable[[int, int, str], None]) -> Callable[[int, int, str], None]:
    """Pass progress on at most every tenth of a second: loops have many rounds."""
    last = 0.0

    def passed(done: int, total: int, node: str) -> None:
        nonlocal last
        if time.monotonic() - last > 0.1:
            last = time.monotonic()
            tell(done, total, node)

    return passed


def _report(result: NodeResult, before: Geo | None) -> dict[str, Any]:
    report: dict[str, Any] = {
        "state": result.state,
        "key": result.key,
        "seconds": result.seconds,
        "parts": dict(result.parts),
        "cached": result.cached,
        "skipped": result.skipped,
        "notes": [{"level": note.level, "text": note.text} for note in result.notes],
        "error": result.error,
        "counts": None,
        "outputs": {name: element_counts(geo) for name, geo in result.outputs.items()},
        "change": None,
    }
    if result.geo is not None:
        counts = element_counts(result.geo)
        report["counts"] = counts
        if before is not None:
            old = element_counts(before)
            report["change"] = {kind: count - old[kind] for kind, count in counts.items()}
    return report
