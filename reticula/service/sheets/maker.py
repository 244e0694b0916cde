"""Makes the variants of proof sheets, on workers of this machine or of a cluster, until they are done or stopped.

A sheet that was being made when the service ended is gone on with when it starts again.
"""

from __future__ import annotations

import json
import logging
import threading
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

from sqlalchemy.exc import DBAPIError

from reticula.core.errors import ReticulaError
from reticula.many.part import Outcome
from reticula.many.shared_cluster import SharedCluster
from reticula.many.sheet import Plan, Sheet
from reticula.many.tries import best_so_far
from reticula.store import sheets
from reticula.store.database import Database
from reticula.store.errors import NotFound
from reticula.store.sheet_models import VariantRow
from reticula.store.sheets import DrawnFiles, Ended

__all__ = ["Around", "SheetMaker", "sheet_of"]

log = logging.getLogger(__name__)
PAUSE = 5.0
"""Seconds after which a database that did not answer is asked again."""
Around = Callable[[Any, str, dict[str, Any]], Any]
"""Finds what a document needs: see :meth:`reticula.service.context.Context.surroundings`."""


def sheet_of(document: dict[str, Any], plan: Plan, around: Any, rows: Sequence[Mapping[str, Any]] = ()) -> Sheet:
    """Return the sheet of a document with what it needs; ``rows`` are those of the plan's table."""
    return Sheet(document, plan, around.library, {name: Path(path) for name, (path, _) in around.shapes.items()}, rows)


def _outcome(one: VariantRow) -> Outcome:
    """Return what became of a variant, with what a search reads of it."""
    return {"numbers": {}, "warnings": [], **json.loads(one.outcome), "state": one.state}


@dataclass
class _Making:
    """A sheet that is being made. ``asked`` counts the calls to begin since its thread looked what is open."""

    thread: threading.Thread
    wanted: bool = True
    asked: int = 0


class SheetMaker:
    """Sheets that are being made, each by a thread that hands parts to the workers they share."""

    def __init__(self, database: Database, drawn: DrawnFiles, cluster: SharedCluster, around: Around) -> None:
        self.database, self.drawn, self.cluster, self.around = database, drawn, cluster, around
        self._making: dict[str, _Making] = {}
        self._lock = threading.Lock()
        self._closed = threading.Event()

    def go_on(self) -> None:
        """Go on with the sheets that were being made when the service ended."""
        with self.database.session() as session:
            found = sheets.running(session)
        for sheet_id in found:
            self.begin(sheet_id)

    def begin(self, sheet_id: str) -> None:
        """Make the open variants of a sheet; nothing happens if it is being made."""
        with self._lock:
            if self._closed.is_set():
                return
            if (making := self._making.get(sheet_id)) is not None:
                making.wanted, making.asked = True, making.asked + 1
                return
            made = _Making(threading.Thread(target=self._run, args=(sheet_id,), name=f"sheet {sheet_id}", daemon=True))
            self._making[sheet_id] = made
        made.thread.start()

    def stop(self, sheet_id: str) -> None:
        """Hand out no more of a sheet; what is on its way is given up."""
        with self._lock:
            if making := self._making.get(sheet_id):
                making.wanted = False

    def is_making(self, sheet_id: str) -> bool:
        """Whether a thread is at a sheet."""
        with self._lock:
            return sheet_id in self._making

    def close(self) -> None:
        """End all work; sheets stay as they are, and are gone on with by the next service."""
        self._closed.set()

    def _run(self, sheet_id: str) -> None:
        while True:
            with self._lock:
                making = self._making[sheet_id]
                making.asked = 0
            trouble = self._patiently(lambda: self._make(sheet_id))
            with self._lock:
                if making.asked and not self._closed.is_set():
                    continue  # more came while the last ones were made
                del self._making[sheet_id]
            break
        if not self._closed.is_set():
            self._patiently(lambda: self._end(sheet_id, trouble, making.wanted))

    def _make(self, sheet_id: str) -> str:
        """Make what is open, or seek; return what went wrong with the sheet as a whole."""
        try:
            with self.database.session() as session:
                row = sheets.get(session, sheet_id)
                plan, document = Plan.of(json.loads(row.plan)), json.loads(row.document)
                sheet = sheet_of(document, plan, self.around(session, row.project_id, document))
            if plan.seek is None:
                self._make_open(sheet_id, sheet)
                return ""
            search = sheet.search()
            for best in best_so_far(search, plan.seek, plan.read, partial(self._tried, sheet_id, sheet)):
                self._patiently(partial(self._keep_best, sheet_id, best))
        except NotFound:
            return ""  # deleted in the meantime
        except ReticulaError as error:
            return str(error)
        return ""

    def _tried(self, sheet_id: str, sheet: Sheet, asked: list[dict[str, Any]]) -> list[Outcome | None]:
        """Have tries made that the sheet does not have yet, and return what became of all; None for those that were not
        made any more.
        """
        given = [(sheet.part(values).key, values) for values in asked]
        with self.database.session() as session:
            row = sheets.get(session, sheet_id, lock=True)
            known = sheets.asked_for(session, sheet_id, given)
            sheets.add_variants(session, row, [one for one, there in zip(given, known, strict=True) if there is None])
        self._make_open(sheet_id, sheet)
        with self.database.session() as session:
            ended = sheets.asked_for(session, sheet_id, given)
            return [_outcome(one) if one is not None and one.state != "open" else None for one in ended]

    def _make_open(self, sheet_id: str, sheet: Sheet) -> None:
        """Make the variants that are open; what a sheet of the project has made is taken over."""
        with self.database.session() as session:
            row = sheets.get(session, sheet_id)
            todo = {one.key: one for one in sheets.open_variants(session, sheet_id)}
            for key, made in sheets.made_before(session, row.project_id, list(todo)).items():
                if all(self.drawn.path(name).is_file() for name in (made.content, made.file) if name):
                    before = Ended("done", made.outcome, made.content, made.file)
                    sheets.end_variant(session, sheet_id, key, before)
                    del todo[key]
            parts = {}
            for key, one in todo.items():
                try:
                    parts[key] = sheet.part(json.loads(one.given))
                except ReticulaError as error:
                    told = Ended("failed", json.dumps({"error": error.details()}))
                    sheets.end_variant(session, sheet_id, key, told)
        # Another release names results otherwise; whoever made the sheet chose the variant, not the name.
        keys = {id(part): key for key, part in parts.items()}
        if not parts:
            return
        with self.cluster.ready() as cluster:
            sheet.parts.send(parts.values(), cluster.contents)
            for part, outcome in cluster.outcomes(parts.values(), lambda: not self._is_wanted(sheet_id)):
                for file in (outcome, outcome.get("drawn", {})):
                    if file.get("place"):
                        cluster.contents.take(file["place"], self.drawn.path(file["content"]))
                self._patiently(partial(self._keep, sheet_id, keys[id(part)], outcome))

    def _keep_best(self, sheet_id: str, best: list[dict[str, Any]]) -> None:
        with self.database.session() as session:
            sheets.set_best(session, sheet_id, best)

    def _keep(self, sheet_id: str, key: str, outcome: Outcome) -> None:
        picture = outcome.get("drawn", {}).get("content") or ""
        made = Ended(outcome["state"], json.dumps(outcome), picture, outcome.get("content") or "")
        with self.database.session() as session:
            sheets.end_variant(session, sheet_id, key, made)

    def _end(self, sheet_id: str, trouble: str, to_its_end: bool) -> None:
        with self.database.session() as session:
            if trouble:
                sheets.set_state(session, sheet_id, "failed", trouble)
            elif to_its_end and sheets.open_variants(session, sheet_id):
                sheets.set_state(session, sheet_id, "failed", "Not all variants were made; go on to make the rest.")
            elif to_its_end:
                sheets.set_state(session, sheet_id, "done")

    def _is_wanted(self, sheet_id: str) -> bool:
        with self._lock:
            return self._making[sheet_id].wanted and not self._closed.is_set()

    def _patiently(self, work: Callable[[], Any]) -> Any:
        """Do something with the database, again and again while it does not answer."""
        while True:
            try:
                return work()
            except DBAPIError:
                log.warning("the database does not answer; proof sheets wait for it")
                if self._closed.wait(PAUSE):
                    return ""
            except Exception as error:
                if not self._closed.is_set():
                    log.exception("a proof sheet cannot be made")
                return f"{type(error).__name__}: {error}"
