"""One graph over many inputs: every file that a pattern finds, with every row of a table."""

from __future__ import annotations

import os
import shutil
from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import with_values
from reticula.core.packages.opened import Opened, opened
from reticula.many.choices import Choice, choice_of_text, variants_of
from reticula.many.contents import Contents
from reticula.many.manifest import Entry, Manifest
from reticula.many.part import Outcome, Part
from reticula.many.parts import Parts
from reticula.many.rows import Row, rows_of, with_variants
from reticula.many.shared_cluster import begun
from reticula.workers.row_files import read_table
from reticula.workers.tickets import Limits

if TYPE_CHECKING:
    from reticula.many.cluster import Cluster

__all__ = ["Batch", "put", "ready", "run_batch"]

MANIFEST = "manifest"


@dataclass
class Batch:
    """What became of a batch: ``entries`` in the order of the rows; ``again`` of them were made before."""

    entries: list[Entry] = field(default_factory=list)
    again: int = 0
    tables: tuple[Path, ...] = ()

    @property
    def failed(self) -> list[Entry]:
        """The entries of the rows that failed."""
        return [one for one in self.entries if one["state"] == "failed"]


def run_batch(
    graph: str | Path | Mapping[str, Any],
    *,
    inputs: Mapping[str, str] | None = None,
    table: str | Path | Sequence[Mapping[str, Any]] | None = None,
    values: Mapping[str, Any] | None = None,
    vary: Mapping[str, Choice | str] | None = None,
    count: int = 1,
    spread: str = "sobol",
    seed: int = 0,
    out: str = "",
    numbers: Mapping[str, str] | None = None,
    node: str | None = None,
    frame: float | None = None,
    packages: Iterable[str | Path] = (),
    manifest: str | Path | None = None,
    workers: int | None = None,
    cluster: str | Cluster = "",
    store: str = "",
    limits: Limits | None = None,
    on_entry: Callable[[Entry, int, int], None] | None = None,
    should_stop: Callable[[], bool] = lambda: False,
) -> Batch:
    """Evaluate a graph once for every combination of files and rows, and write every result.

    Parameters
    ----------
    graph : str, Path or dict
        A graph document (JSON), or a package (zip).
    inputs : dict
        A pattern of files by the name of an input of the graph or a shape that it names: ``{"scan": "scans/*.ply"}``.
    table : str, Path or rows
        CSV or Parquet, or the rows as dicts. A column named as a dial, an input, a shape or ``NODE.PARAMETER`` sets it;
        Files are below the table's folder. ``name`` names the row; other columns are kept in the manifest.
    values : dict
        What is the same for all: dials by name, parameters as ``NODE.PARAMETER``.
    vary, count, spread, seed
        What values are turned to, by name, see :func:`reticula.many.choices.variants_of`; every variant is made with
        every row and file. Texts are read by :func:`reticula.many.choices.choice_of_text`.
    out : str
        Where each result goes, with ``{name}``, ``{row}`` and any column, dial or input in braces; empty: only numbers.
    numbers : dict
        What is noted of each result: ``points``, ``edges``, ``faces``, ``curves``, ``instances``, ``area`` (m²),
        ``volume`` (m³), ``defects``, or a formula on the whole.
    node, frame, packages
        As for ``reticula run``.
    manifest : str or Path
        Where the manifest goes, without its ending; beside the results if not given.
    workers, cluster, store, limits
        See :class:`reticula.many.cluster.Cluster`; ``cluster`` may be one, which stays open. ``RETICULA_CLUSTER`` and
        ``RETICULA_STORE`` in the environment stand for those that are not given.
    on_entry : callable
        Told each entry as it comes, how many there are by now, and how many there will be.
    should_stop : callable
        Asked between parts; what is done by then is kept.

    Returns the batch: failed rows are entries with ``error``, and do not raise. Rows that a former call with the same
    manifest has made are not made again. Raises GraphError, FormatError or OSError for what cannot be begun,
    ClusterError if the cluster fails: call again to go on.
    """
    patterns = dict(inputs or {})
    listed: Sequence[Mapping[str, Any]]
    listed = read_table(Path(table)) if isinstance(table, (str, Path)) else list(table or [])
    folder = Path(table).parent if isinstance(table, (str, Path)) else Path()
    chosen = {name: choice_of_text(one) if isinstance(one, str) else one for name, one in (vary or {}).items()}
    given = {*patterns, *(name for row in listed for name in row)}
    source = graph if isinstance(graph, Mapping) else Path(graph)
    what = opened(source, packages=map(Path, packages), given=given, node=node)
    accepts = {*what.inputs, *(name for name, found in what.shapes.items() if not isinstance(found, tuple))}
    if unknown := [name for name in chosen if not what.can_set(name)]:
        raise GraphError(f"nothing is called '{unknown[0]}'; dials are {', '.join(what.dials) or 'none'}")
    listed = with_variants(listed, variants_of(chosen, count=count, spread=spread, seed=seed, whole=what.whole))
    rows = rows_of(patterns, listed, accepts=accepts, settable=what.can_set, out=out, folder=folder)
    _check_given(what, rows)
    maker = Parts(what, dict(values or {}), dict(numbers or {}), frame)
    with_values(what.document, maker.values)
    kept = Manifest(Path(manifest) if manifest else _beside(out))
    made = Batch(tables=kept.tables)
    todo: dict[str, list[Row]] = {}
    parts: dict[str, Part] = {}
    for row in rows:
        part = maker.part(row)
        if (before := kept.done(part.key, row)) is not None:
            made.entries.append(before)
            continue
        todo.setdefault(part.key, []).append(row)
        parts[part.key] = part
    made.again = len(made.entries)
    try:
        if parts:
            size = min(workers or os.cpu_count() or 1, len(parts))
            with ready(cluster, size, store, limits) as workers_of:
                maker.send(parts.values(), workers_of.contents)
                for part, outcome in workers_of.outcomes(parts.values(), should_stop):
                    put(workers_of.contents, outcome, [Path(row.out) for row in todo[part.key] if row.out])
                    for row in todo[part.key]:
                        made.entries.append(kept.add(part.key, row, outcome))
                        if on_entry:
                            on_entry(made.entries[-1], len(made.entries), len(rows))
    finally:
        kept.close()
        made.entries.sort(key=lambda one: one["row"])
        if made.entries:
            kept.write(made.entries)
    return made


def ready(cluster: str | Cluster, workers: int, store: str, limits: Limits | None) -> AbstractContextManager[Cluster]:
    """Return the workers that are meant: of this machine if no cluster is named, here or in the environment."""
    if not isinstance(cluster, str):
        return nullcontext(cluster)
    return begun(cluster, store=store, workers=workers, limits=limits)


def _check_given(what: Opened, rows: Sequence[Row]) -> None:
    for name in (name for name, found in what.shapes.items() if found is None):
        for row in rows:
            if name not in row.files:
                raise GraphError(f"row {row.number} needs the shape '{name}': give it with --in {name}=FILE")


def _beside(out: str) -> Path:
    """Return where the manifest goes: the folder that all results share."""
    fixed = Path(out.partition("{")[0] or ".")
    folder = fixed if out.partition("{")[0].endswith("/") else fixed.parent
    return folder / MANIFEST


def put(contents: Contents, outcome: Outcome, places: Sequence[Path]) -> None:
    """Write the file of a result to its places."""
    if not outcome.get("place") or not places:
        return
    contents.take(outcome["place"], places[0])
    for other in places[1:]:
        other.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(places[0], other)
