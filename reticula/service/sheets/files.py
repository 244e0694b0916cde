"""A proof sheet as one file, with its pictures: taken along, and brought to a graph of this workshop or another."""

from __future__ import annotations

import json
import re
import shutil
import tempfile
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from flask import request, send_file
from flask_openapi3 import APIBlueprint, Tag
from pydantic import ValidationError

from reticula.core.errors import FormatError, ReticulaError
from reticula.core.graph.structure.document import check_structure
from reticula.many.digests import digest_of_file
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.errors import refuse, refuse_validation
from reticula.service.schemas import ErrorState, GraphPath
from reticula.service.schemas.sheets import SheetFile, SheetPath, SheetState, VariantFile
from reticula.service.serving.parking import Result, result_later
from reticula.service.sheets.maker import sheet_of
from reticula.service.sheets.telling import planned, sheet_state, variants_told
from reticula.store import graphs, sheets
from reticula.store.assets import safe_file_name
from reticula.store.sheet_models import VariantRow
from reticula.workers.sheet_files import ABOUT, PICTURES
from reticula.workers.tasks import Job

__all__ = ["blueprint"]

KEPT = set(VariantFile.model_fields)
UNSAFE = re.compile(r"[^\w.+-]+")

blueprint = APIBlueprint("sheet_files", __name__, url_prefix="/api", abp_tags=[Tag(name="proof sheets")])


@blueprint.get("/sheets/<sheet_id>/file", responses={404: ErrorState})
def read_file(path: SheetPath) -> Answer:
    """Read a proof sheet as a zip file: what it shows, the graph that it is of, its variants and their pictures."""
    here = context()
    with here.database.session() as session:
        row = sheets.get(session, path.sheet_id)
        told = variants_told(row, sheets.variants(session, row.id))
        state = sheet_state(row, sheets.counts(session, [row.id])[row.id])
        document = json.loads(row.document)
    variants = [{name: value for name, value in one.items() if name in KEPT} for one in told]
    said = {"title": state["title"], "plan": state["plan"], "document": document, "best": state["best"]}
    about = {"format": "reticula proof sheet", "version": 1, **said, "variants": variants}
    pictures = {PICTURES + one["picture"]: one["picture"] for one in variants if one["picture"]}
    return _zipped(state["title"], pictures, json.dumps(about, ensure_ascii=False))


@blueprint.get("/sheets/<sheet_id>/results", responses={404: ErrorState})
def read_results(path: SheetPath) -> Answer:
    """Read the results that were kept as one zip file, each under its number and what its row calls it."""
    here = context()
    with here.database.session() as session:
        row = sheets.get(session, path.sheet_id)
        title, found = row.title, [one for one in sheets.variants(session, row.id) if one.file]
    if not found:
        return refuse(404, "not found", "This sheet keeps no results; make one that keeps files.")
    return _zipped(title, {_named(one): one.file for one in found})


def _zipped(title: str, kept: Mapping[str, str], about: str = "") -> Answer:
    """Answer with a zip file of what is kept, by the names that it has in there, and of what is said about it."""
    here = context()
    file = tempfile.TemporaryFile(dir=here.config.var)  # noqa: SIM115  # closed with the answer
    with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as archive:
        if about:
            archive.writestr(zipfile.ZipInfo(ABOUT), about.encode(), zipfile.ZIP_DEFLATED)
        for name, content in kept.items():
            if (found := here.drawn.path(content)).is_file():
                archive.writestr(zipfile.ZipInfo(name), found.read_bytes())
    file.seek(0)
    return send_file(file, mimetype="application/zip", as_attachment=True, download_name=safe_file_name(f"{title}.zip"))


def _named(one: VariantRow) -> str:
    """Return what a result is called: its number, and its row's name or else its short values."""
    given = json.loads(one.given)
    words = [given["name"]] if given.get("name") else [value for value in given.values() if not isinstance(value, list)]
    tail = UNSAFE.sub("_", "-".join(f"{word:g}" if isinstance(word, float) else str(word) for word in words))[:60]
    return f"{one.number:04}{tail and '-'}{tail}{Path(one.file).suffix}"


@blueprint.post(
    "/graphs/<graph_id>/sheets/file", responses={201: SheetState, 404: ErrorState, 413: ErrorState, 422: ErrorState}
)
def bring_in(path: GraphPath) -> Answer:
    """Bring a proof sheet (multipart field ``file``) to a graph; what it had still to make waits to be gone on with."""
    here = context()
    with here.database.session() as session:
        graphs.get(session, path.graph_id)
    given = request.files.get("file")
    if given is None or not given.filename:
        raise FormatError("there is no file in this upload")
    folder = here.drawn.coming()
    stored, unpacked = folder / "sheet.zip", folder / "pictures"
    given.save(stored)

    def keep(result: Result) -> Answer:
        with _gone_afterwards(folder):
            try:
                sheet = SheetFile.model_validate(result())
            except ValidationError as error:
                return refuse_validation(error)
            return _kept(path.graph_id, sheet, unpacked), 201

    job = Job("bring", about={"path": str(stored), "unpacked": str(unpacked)})
    return result_later(job, keep, affinity=path.graph_id)


@contextmanager
def _gone_afterwards(folder: Path) -> Iterator[None]:
    try:
        yield
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _kept(graph_id: str, brought: SheetFile, pictures: Path) -> dict[str, Any]:
    """Keep a sheet and its pictures; raise FormatError or GraphError for what is no good."""
    here = context()
    document = dict(check_structure(brought.document))
    plan = planned(brought.plan, brought.plan.node, brought.plan.frame, brought.plan.columns)
    numbers = [one.number for one in brought.variants]
    if len(set(numbers)) < len(numbers):
        raise FormatError("two variants of this proof sheet have one number")
    for picture in pictures.iterdir():
        if digest_of_file(picture) != picture.stem:
            raise FormatError(f"the picture '{picture.name}' was changed")
    with here.database.session() as session:
        project = graphs.get(session, graph_id).project_id
        try:
            sheet_of(document, plan, here.surroundings(session, project, document)).check()
        except ReticulaError as error:
            raise FormatError(f"this proof sheet shows nothing that can be made: {error}") from None
        for picture in pictures.iterdir():
            picture.replace(here.drawn.path(picture.name))
        row = sheets.create(session, graph_id, brought.title, plan.plain(), document)
        waits = plan.seek is not None and len(brought.variants) < plan.count
        waits = waits or any(one.state == "open" for one in brought.variants)
        made = [_row(one) for one in brought.variants]
        try:
            variants_told(row, made)
        except (ReticulaError, ValueError, TypeError) as error:
            raise FormatError(f"what it says of its variants cannot be read: {error}") from None
        sheets.bring_in(session, row, "stopped" if waits else "done", sorted({*brought.best} & {*numbers}), made)
        return sheet_state(row, sheets.counts(session, [row.id])[row.id])


def _row(one: VariantFile) -> VariantRow:
    told = one.model_dump(include={"numbers", "counts", "warnings", "notes", "memory"})
    outcome = {**told, "took": one.seconds, **({"error": {"code": "there", "message": one.error}} if one.error else {})}
    return VariantRow(
        number=one.number,
        state=one.state,
        ended=one.ended,
        given=json.dumps(one.values, ensure_ascii=False, separators=(",", ":"), allow_nan=False),
        outcome=json.dumps(outcome, ensure_ascii=False, allow_nan=False),
        content=one.picture,
    )
