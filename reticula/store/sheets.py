"""Proof sheets: what each is to show, its variants, and what became of them."""

from __future__ import annotations

import json
import re
import shutil
import tempfile
import time
from collections.abc import Iterable, Mapping, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any
from uuid import uuid4

from sqlalchemy import func, or_, select, update
from sqlalchemy.orm import Session, defer

from reticula.store import graphs
from reticula.store.errors import NotFound, StoreError
from reticula.store.models import new_id
from reticula.store.sheet_models import SheetRow, VariantRow

__all__ = [
    "DrawnFiles",
    "Ended",
    "add_variants",
    "asked_for",
    "bring_in",
    "counts",
    "create",
    "delete",
    "end_variant",
    "get",
    "list_of",
    "made_before",
    "open_again",
    "open_variants",
    "running",
    "set_best",
    "set_state",
    "variant",
    "variants",
]

MOST_VARIANTS = 10_000
UNUSED_SECONDS = 3600.0
KEPT_NAME = re.compile(r"[0-9a-f]{32}\.[a-z0-9]{1,12}\Z")
Given = tuple[str, Mapping[str, Any]]
"""A variant that is to be made: the key of its result, and its values."""


@dataclass(frozen=True)
class Ended:
    """What became of a variant, see :class:`reticula.store.sheet_models.VariantRow`."""

    state: str
    outcome: str
    content: str = ""
    file: str = ""


class DrawnFiles:
    """The folder of pictures and results of variants, each named by its content, and of what is looked at first."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)

    def path(self, content: str) -> Path:
        """Return where a content lies; raise NotFound for what is no name of one."""
        if not KEPT_NAME.match(content):
            raise NotFound("There is no such file of this variant.")
        return self.folder / content

    def sweep(self, session: Session, seconds: float = UNUSED_SECONDS) -> int:
        """Delete contents that no variant names and that came at least some ``seconds`` ago; returns how many."""
        old = [path for path in self.folder.iterdir() if _age(path) >= seconds]
        kept = (VariantRow.content, VariantRow.file) if old else ()
        used = {name for column in kept for name in session.scalars(select(column).distinct())}
        gone = [path for path in old if path.name not in used]
        for path in gone:
            if path.is_dir():
                shutil.rmtree(path, ignore_errors=True)
            else:
                path.unlink(missing_ok=True)
        return len(gone)

    def coming(self) -> Path:
        """Return a new folder, on the same disk, for what is looked at first."""
        return Path(tempfile.mkdtemp(prefix="coming-", dir=self.folder))


def _age(path: Path) -> float:
    with suppress(FileNotFoundError):
        return time.time() - path.stat().st_mtime
    return 0.0


def list_of(session: Session, project_id: str) -> list[SheetRow]:
    """Return the sheets of a project, the newest first, without their documents."""
    found = select(SheetRow).where(SheetRow.project_id == project_id).options(defer(SheetRow.document))
    return list(session.scalars(found.order_by(SheetRow.created_at.desc(), SheetRow.id)))


def get(session: Session, sheet_id: str, *, lock: bool = False) -> SheetRow:
    """Return a sheet; raise NotFound. ``lock`` keeps others from changing it until the session ends."""
    found = session.get(SheetRow, sheet_id, with_for_update=lock or None)
    if found is None:
        raise NotFound(f"There is no proof sheet '{sheet_id}'.")
    return found


def running(session: Session) -> list[str]:
    """Return the sheets that are being made, or were when the service ended."""
    return list(session.scalars(select(SheetRow.id).where(SheetRow.state == "running").order_by(SheetRow.created_at)))


def create(
    session: Session, graph_id: str, title: str, plan: Mapping[str, Any], document: Mapping[str, Any]
) -> SheetRow:
    """Make a sheet of a graph as ``document`` has it, with no variants yet."""
    graph = graphs.get(session, graph_id)
    made = SheetRow(
        id=new_id(),
        project_id=graph.project_id,
        graph_id=graph.id,
        title=title or f"{graph.title}: proof sheet {1 + len(list_of(session, graph.project_id))}"[:200],
        plan=_text(plan),
        document=_text(document),
    )
    session.add(made)
    session.flush()
    return made


def bring_in(session: Session, sheet: SheetRow, state: str, best: Sequence[int], made: Iterable[VariantRow]) -> None:
    """Fill a new sheet with variants that were made elsewhere.

    Their keys are new ones: what somebody else says of a result is never taken for one of ours.
    """
    for one in made:
        one.sheet_id, one.key = sheet.id, uuid4().hex
        sheet.ended = max(sheet.ended, one.ended)
        session.add(one)
    sheet.state, sheet.best = state, _text(sorted(best))
    session.flush()


def delete(session: Session, sheet_id: str) -> None:
    """Delete a sheet with its variants."""
    session.delete(get(session, sheet_id))


def set_state(session: Session, sheet_id: str, state: str, trouble: str = "") -> None:
    """Say what is happening with a sheet; nothing happens if it is gone."""
    session.execute(update(SheetRow).where(SheetRow.id == sheet_id).values(state=state, trouble=trouble[:500]))


def set_best(session: Session, sheet_id: str, given: Iterable[Mapping[str, Any]]) -> None:
    """Say which variants, by their values, are the best by now; nothing happens if the sheet is gone."""
    texts = {_text(values) for values in given}
    found = select(VariantRow.number, VariantRow.given).where(VariantRow.sheet_id == sheet_id)
    numbers = sorted(number for number, text in session.execute(found) if text in texts)
    session.execute(update(SheetRow).where(SheetRow.id == sheet_id).values(best=_text(numbers)))


def asked_for(session: Session, sheet_id: str, given: Sequence[Given]) -> list[VariantRow | None]:
    """Return the variants of some keys or, from another release, values, in their order; None for those that the sheet
    does not have.
    """
    texts = [_text(values) for _, values in given]
    ours = or_(VariantRow.given.in_(texts), VariantRow.key.in_([key for key, _ in given]))
    found = list(session.scalars(select(VariantRow).where(VariantRow.sheet_id == sheet_id, ours)))
    known = {one.given: one for one in found} | {one.key: one for one in found}
    return [known.get(key) or known.get(text) for (key, _), text in zip(given, texts, strict=True)]


def add_variants(session: Session, sheet: SheetRow, given: Iterable[Given]) -> int:
    """Add the variants that the sheet does not have yet, after those that it has; returns how many.

    Raises StoreError if it would have more than :data:`MOST_VARIANTS`.
    """
    there = session.execute(select(VariantRow.key, VariantRow.given).where(VariantRow.sheet_id == sheet.id)).all()
    known = {text for row in there for text in row}
    new = {key: values for key, values in given if key not in known and _text(values) not in known}
    if (total := len(there) + len(new)) > MOST_VARIANTS:
        raise StoreError(f"A sheet has {MOST_VARIANTS:,} variants at most; this one would have {total:,}.")
    last = session.scalar(select(func.max(VariantRow.number)).where(VariantRow.sheet_id == sheet.id)) or 0
    session.add_all(
        VariantRow(sheet_id=sheet.id, number=number, key=key, given=_text(values))
        for number, (key, values) in enumerate(new.items(), start=last + 1)
    )
    session.flush()
    return len(new)


def open_variants(session: Session, sheet_id: str) -> list[VariantRow]:
    """Return the variants that are still to be made, in their order."""
    found = select(VariantRow).where(VariantRow.sheet_id == sheet_id, VariantRow.state == "open")
    return list(session.scalars(found.order_by(VariantRow.number)))


def open_again(session: Session, sheet_id: str) -> int:
    """Have the variants that failed made once more; returns how many."""
    failed = update(VariantRow).where(VariantRow.sheet_id == sheet_id, VariantRow.state == "failed")
    return int(session.execute(failed.values(state="open", ended=0)).rowcount)  # type: ignore[attr-defined]  # of updates


def made_before(session: Session, project_id: str, keys: Sequence[str]) -> dict[str, VariantRow]:
    """Return variants of the project's sheets that are done, by their key."""
    found = select(VariantRow).join(SheetRow, SheetRow.id == VariantRow.sheet_id)
    found = found.where(SheetRow.project_id == project_id, VariantRow.state == "done", VariantRow.key.in_(keys))
    return {one.key: one for one in session.scalars(found)}


def end_variant(session: Session, sheet_id: str, key: str, made: Ended) -> None:
    """Keep what became of a variant; nothing happens if the sheet is gone."""
    sheet = session.get(SheetRow, sheet_id, with_for_update=True)
    if sheet is None:
        return
    sheet.ended += 1
    one = update(VariantRow).where(VariantRow.sheet_id == sheet_id, VariantRow.key == key)
    session.execute(one.values(ended=sheet.ended, **asdict(made)))


def variants(session: Session, sheet_id: str, since: int = -1) -> list[VariantRow]:
    """Return the variants of a sheet by their numbers; those that ended after the one that ended as ``since``."""
    found = select(VariantRow).where(VariantRow.sheet_id == sheet_id, VariantRow.ended > since)
    return list(session.scalars(found.order_by(VariantRow.number)))


def variant(session: Session, sheet_id: str, number: int) -> VariantRow:
    """Return one variant; raise NotFound."""
    found = session.get(VariantRow, (sheet_id, number))
    if found is None:
        raise NotFound(f"The sheet has no variant {number}.")
    return found


def counts(session: Session, sheet_ids: Sequence[str]) -> dict[str, dict[str, int]]:
    """Return how many variants of each sheet are open, done and failed."""
    made: dict[str, dict[str, int]] = {one: {"open": 0, "done": 0, "failed": 0} for one in sheet_ids}
    found = select(VariantRow.sheet_id, VariantRow.state, func.count()).where(VariantRow.sheet_id.in_(sheet_ids))
    for sheet_id, state, count in session.execute(found.group_by(VariantRow.sheet_id, VariantRow.state)):
        made[sheet_id][state] = count
    return made


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)
