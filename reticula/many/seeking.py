"""Turning the values of a graph until formulas are best, in Python and on the command line."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import with_values
from reticula.core.packages.opened import opened
from reticula.many.aims import Aim, Seek
from reticula.many.batch import Batch, put, ready
from reticula.many.choices import Choice, choice_of_text, value_like
from reticula.many.manifest import Entry, Manifest
from reticula.many.part import Outcome, Part
from reticula.many.parts import Parts
from reticula.many.rows import Row, rows_of
from reticula.many.search import Search
from reticula.many.tries import best_so_far
from reticula.workers.tickets import Limits

if TYPE_CHECKING:
    from reticula.many.cluster import Cluster

__all__ = ["Found", "run_seek"]

MANIFEST = "seek"
Values = dict[str, Any]


@dataclass
class Found(Batch):
    """What became of a search: all tries are ``entries``; the ``best`` ones of them meet all conditions, and no other
    is as good in every aim and better in one. If none meets them, it is the one that lacks least.
    """

    best: tuple[Entry, ...] = ()


def run_seek(
    graph: str | Path | Mapping[str, Any],
    *,
    vary: Mapping[str, Choice | str],
    aims: Sequence[Aim],
    conditions: Sequence[str] = (),
    tries: int = 96,
    seed: int = 0,
    inputs: Mapping[str, str] | None = None,
    values: Mapping[str, Any] | None = None,
    out: str = "",
    numbers: Mapping[str, str] | None = None,
    node: str | None = None,
    frame: float | None = None,
    packages: Iterable[str | Path] = (),
    manifest: str | Path = MANIFEST,
    workers: int | None = None,
    cluster: str | Cluster = "",
    store: str = "",
    limits: Limits | None = None,
    on_entry: Callable[[Entry, int, int], None] | None = None,
    should_stop: Callable[[], bool] = lambda: False,
) -> Found:
    """Turn values of a graph until formulas are best.

    Parameters
    ----------
    graph, values, numbers, node, frame, packages, workers, cluster, store, limits, on_entry, should_stop
        As for :func:`reticula.many.batch.run_batch`.
    vary : dict
        Between which ends, or among which, each value is turned, see
        :func:`reticula.many.choices.choice_of_text`.
    aims, conditions
        What is sought, see :class:`reticula.many.aims.Seek`; formulas read values and numbers by name, or ``geo``.
    tries, seed
        How many are made at most; the same seed makes the same tries, with any number of workers.
    inputs : dict
        A file by the name of each input of the graph or shape that it names.
    out : str
        Where the best ones are written, with ``{row}`` and any value in braces; empty: nowhere.
    manifest : str or Path
        Where the list of all tries goes, without its ending; tries that it has are not made again.

    Returns what was found, when stopped, too. Raises GraphError, FormatError or OSError for what cannot be begun,
    ClusterError if the cluster fails: call again to go on.
    """
    seek = Seek(tuple(aims), tuple(conditions))
    choices = {name: choice_of_text(one) if isinstance(one, str) else one for name, one in vary.items()}
    source = graph if isinstance(graph, Mapping) else Path(graph)
    what = opened(source, packages=map(Path, packages), given=inputs or {}, node=node)
    if unknown := next((name for name in choices if not what.can_set(name)), None):
        raise GraphError(f"nothing is called '{unknown}'; dials are {', '.join(what.dials) or 'none'}")
    noted = {**seek.numbers_beside({*choices, *(numbers or {})}), **(numbers or {})}
    row = dict.fromkeys(noted, 1.0) | {name: value_like(one) for name, one in choices.items()}
    seek.check(row)
    search = Search(choices, what.whole, aims=len(seek.aims), tries=tries, seed=seed)
    maker = Parts(what, dict(values or {}), noted, frame)
    with_values(what.document, maker.values)
    kept = Manifest(Path(manifest))
    found = Found(tables=kept.tables)
    try:
        with ready(cluster, workers or os.cpu_count() or 1, store, limits) as workers_of:
            makes = _Tries(maker, dict(inputs or {}), workers_of, kept, should_stop)
            makes.on_entry = (lambda entry: on_entry(entry, len(makes.known), tries)) if on_entry else None
            best: list[Values] = []
            try:
                for best_by_now in best_so_far(search, seek, [*row], makes.entries):
                    best = best_by_now
            finally:
                found.entries = sorted(makes.known.values(), key=lambda one: one["row"])
                found.again = makes.again
            found.best = tuple(makes.entry(one) for one in best)
            if out:
                makes.write(best, out)
    finally:
        kept.close()
        if found.entries:
            kept.write(found.entries)
    return found


class _Tries:
    """Makes tries that no list has yet, and knows the entries of all, by the keys of their parts."""

    on_entry: Callable[[Entry], None] | None = None

    def __init__(
        self, maker: Parts, files: dict[str, str], cluster: Cluster, kept: Manifest, should_stop: Callable[[], bool]
    ) -> None:
        self.maker, self.files, self.cluster, self.kept, self.should_stop = maker, files, cluster, kept, should_stop
        self.known: dict[str, Entry] = {}
        self.again = 0

    def entries(self, asked: list[Values]) -> list[Entry | None]:
        """Return the entry of each; None for those that were not made any more."""
        todo: dict[str, tuple[Part, Row]] = {}
        parts = [(self.maker.part(row), row) for row in self._rows(asked)]
        keys = [part.key for part, _ in parts]
        for key, (part, row) in dict(zip(keys, parts, strict=True)).items():
            numbered = replace(row, number=len(self.known) + len(todo) + 1)
            if key in self.known:
                continue
            if (before := self.kept.done(key, numbered)) is not None:
                self.known[key] = before
                self.again += 1
            else:
                todo[key] = part, numbered
        for part, outcome in self._made([part for part, _ in todo.values()], self.should_stop):
            self.known[part.key] = self.kept.add(part.key, todo[part.key][1], outcome)
            if self.on_entry:
                self.on_entry(self.known[part.key])
        return [self.known.get(key) for key in keys]

    def entry(self, values: Values) -> Entry:
        """Return the entry of a try that was made."""
        (row,) = self._rows([values])
        return self.known[self.maker.part(row).key]

    def write(self, chosen: list[Values], out: str) -> None:
        """Make some once more, with their files."""
        rows = {self.maker.part(row).key: row for row in self._rows(chosen, out)}
        for part, outcome in self._made([self.maker.part(row) for row in rows.values()], lambda: False):
            put(self.cluster.contents, outcome, [Path(rows[part.key].out)])

    def _made(self, parts: list[Part], should_stop: Callable[[], bool]) -> Iterator[tuple[Part, Outcome]]:
        self.maker.send(parts, self.cluster.contents)
        return self.cluster.outcomes(parts, should_stop)

    def _rows(self, asked: list[Values], out: str = "") -> list[Row]:
        what = self.maker.what
        accepts = {*what.inputs, *(name for name, found in what.shapes.items() if not isinstance(found, tuple))}
        return rows_of(self.files, asked, accepts=accepts, settable=what.can_set, out=out)
