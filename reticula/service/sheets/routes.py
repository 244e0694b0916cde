"""Proof sheets: made of a graph, stopped, gone on with, extended, looked at and taken along as a table."""

from __future__ import annotations

import io
import json
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from flask import Response, send_file
from flask_openapi3 import APIBlueprint, Tag

from reticula.core.errors import GraphError, ReticulaError
from reticula.many.choices import MOST_VARIANTS
from reticula.many.columns import columns_of
from reticula.many.matching import held
from reticula.many.sheet import Plan, Sheet
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.errors import refuse
from reticula.service.loading import load
from reticula.service.schemas import Basis, ErrorState, GraphPath, ProjectPath
from reticula.service.schemas.sheets import (
    ExtendRequest,
    MatchList,
    MatchRequest,
    NewSheet,
    PlanCheck,
    RunRequest,
    SheetList,
    SheetPath,
    SheetState,
    SheetTitle,
    TableQuery,
    VariantList,
    VariantPath,
    VariantsQuery,
)
from reticula.service.serving.parking import result_later
from reticula.service.sheets.maker import sheet_of
from reticula.service.sheets.telling import planned, sheet_state, variants_told
from reticula.store import assets, graphs, sheets
from reticula.store.assets import safe_file_name
from reticula.workers.tasks import Job

__all__ = ["blueprint"]

PLAIN, MORE, LINES = ("number", "state", "error"), ("seconds", "memory"), ("warnings",)
GROUPS = {"values": True, "numbers": True, "aims": False, "counts": True}
"""What the table of a sheet has, see :func:`reticula.many.columns.columns_of`."""

blueprint = APIBlueprint("sheets", __name__, url_prefix="/api", abp_tags=[Tag(name="proof sheets")])


def _read(sheet_id: str) -> dict[str, Any]:
    with context().database.session() as session:
        return sheet_state(sheets.get(session, sheet_id), sheets.counts(session, [sheet_id])[sheet_id])


def _with_rows(project_id: str, table: str, then: Callable[[list[dict[str, Any]]], Answer]) -> Answer:
    """Answer with what ``then`` makes of the rows of a table of the project; of none, if no table is named."""
    if not table:
        return then([])
    here = context()
    with here.database.session() as session:
        found = assets.by_name(session, project_id).get(table)
    if found is None:
        raise GraphError(f"the project has no table '{table}'; drop a CSV or Parquet file on the page to add it")
    path = here.files.path(found.digest, found.file_name)
    job = Job("rows", about={"path": str(path), "most": MOST_VARIANTS})
    return result_later(job, lambda result: then(result()["rows"]), affinity=project_id)


def _columns(rows: Sequence[Mapping[str, Any]]) -> list[str]:
    return list(dict.fromkeys(name for row in rows for name in row))


def _count(sheet: Sheet) -> int:
    """Return how many variants there will be; rows that set the same are made once."""
    if sheet.plan.seek:
        sheet.search()
        return sheet.plan.count
    return len({key for key, _ in _given(sheet)}) if sheet.plan.table else len(sheet.variants())


def _project_of(graph_id: str) -> str:
    with context().database.session() as session:
        return graphs.get(session, graph_id).project_id


def _made_of(path: GraphPath, body: NewSheet, rows: list[dict[str, Any]]) -> tuple[dict[str, Any], Sheet]:
    """Return the graph's document, and the sheet of it that is asked for."""
    loaded = load(path.graph_id, Basis(draft=body.draft, revision=body.revision, frame=body.frame))
    node = body.node or loaded.document.get("looking_at")
    plan = planned(body.plan, node, body.frame, _columns(rows))
    return loaded.document, sheet_of(loaded.document, plan, loaded.around, rows)


@blueprint.post("/graphs/<graph_id>/plans", responses={200: PlanCheck, 422: ErrorState})
def check_plan(path: GraphPath, body: NewSheet) -> Answer:
    """Say how many variants a plan makes, or why none; changes nothing."""

    def check(rows: list[dict[str, Any]]) -> Answer:
        columns = _columns(rows)
        try:
            sheet = _made_of(path, body, rows)[1]
            sets = [name for name in columns if sheet.sets(name)]
            told = {"sets": sets, "kept": [name for name in columns if name not in sets]}
            try:
                return {"count": _count(sheet), "trouble": "", **told}
            except ReticulaError as error:
                return {"count": 0, "trouble": str(error), **told}
        except ReticulaError as error:
            return {"count": 0, "trouble": str(error), "sets": [], "kept": columns}

    return _with_rows(_project_of(path.graph_id), body.plan.table, check)


@blueprint.get("/projects/<project_id>/sheets", responses={200: SheetList})
def list_sheets(path: ProjectPath) -> Answer:
    """List the proof sheets of a project, the newest first."""
    with context().database.session() as session:
        found = sheets.list_of(session, path.project_id)
        count = sheets.counts(session, [one.id for one in found])
        return {"sheets": [sheet_state(one, count[one.id]) for one in found]}


@blueprint.post("/graphs/<graph_id>/sheets", responses={201: SheetState, 422: ErrorState})
def create_sheet(path: GraphPath, body: NewSheet) -> Answer:
    """Make a proof sheet of a graph as it is now, and begin with its variants."""

    def create(rows: list[dict[str, Any]]) -> Answer:
        document, sheet = _made_of(path, body, rows)
        given = _given(sheet)
        here = context()
        with here.database.session() as session:
            row = sheets.create(session, path.graph_id, body.title, sheet.plan.plain(), document)
            sheets.add_variants(session, row, given)
        here.sheets.begin(row.id)
        return _read(row.id), 201

    return _with_rows(_project_of(path.graph_id), body.plan.table, create)


def _given(sheet: Sheet) -> Sequence[tuple[str, dict[str, Any]]]:
    """Return the variants that are known from the beginning; those of one that seeks are asked for later."""
    if sheet.plan.seek:
        sheet.search()
        return []
    return [(sheet.part(values).key, values) for values in sheet.variants()]


@blueprint.get("/sheets/<sheet_id>", responses={200: SheetState, 404: ErrorState})
def read_sheet(path: SheetPath) -> Answer:
    """Read a proof sheet, without its variants."""
    return _read(path.sheet_id)


@blueprint.put("/sheets/<sheet_id>", responses={200: SheetState, 404: ErrorState})
def rename_sheet(path: SheetPath, body: SheetTitle) -> Answer:
    """Give a proof sheet another title."""
    with context().database.session() as session:
        sheets.get(session, path.sheet_id, lock=True).title = body.title
    return _read(path.sheet_id)


@blueprint.delete("/sheets/<sheet_id>", responses={204: None, 404: ErrorState})
def delete_sheet(path: SheetPath) -> Answer:
    """Delete a proof sheet with its variants."""
    here = context()
    with here.database.session() as session:
        sheets.delete(session, path.sheet_id)
    here.sheets.stop(path.sheet_id)
    return "", 204


@blueprint.post("/sheets/<sheet_id>/run", responses={200: SheetState, 404: ErrorState})
def run_sheet(path: SheetPath, body: RunRequest) -> Answer:
    """Make the variants that are open; with ``failed``, those that failed once more."""
    here = context()
    with here.database.session() as session:
        sheets.get(session, path.sheet_id, lock=True)
        if body.failed:
            sheets.open_again(session, path.sheet_id)
        sheets.set_state(session, path.sheet_id, "running")
    here.sheets.begin(path.sheet_id)
    return _read(path.sheet_id)


@blueprint.post("/sheets/<sheet_id>/stop", responses={200: SheetState, 404: ErrorState})
def stop_sheet(path: SheetPath) -> Answer:
    """Stop making variants; those that are done stay, and the others are made when it is run again."""
    here = context()
    with here.database.session() as session:
        if sheets.get(session, path.sheet_id, lock=True).state == "running":
            sheets.set_state(session, path.sheet_id, "stopped")
    here.sheets.stop(path.sheet_id)
    return _read(path.sheet_id)


@blueprint.post("/sheets/<sheet_id>/extend", responses={200: SheetState, 404: ErrorState, 422: ErrorState})
def extend_sheet(path: SheetPath, body: ExtendRequest) -> Answer:
    """Add the variants of another plan that the sheet does not have, of the graph as it was, and make them."""
    here = context()
    with here.database.session() as session:
        project = sheets.get(session, path.sheet_id).project_id

    def extend(rows: list[dict[str, Any]]) -> Answer:
        with here.database.session() as session:
            row = sheets.get(session, path.sheet_id, lock=True)
            before, document = Plan.of(json.loads(row.plan)), json.loads(row.document)
            plan = planned(body, before.node, before.frame, list(dict.fromkeys([*before.columns, *_columns(rows)])))
            if plan.seek != before.seek:
                return refuse(422, "request", "What a sheet seeks stays; make another one to seek something else.")
            if (dict(plan.numbers), plan.ending) != (dict(before.numbers), before.ending):
                return refuse(
                    422,
                    "request",
                    "A sheet notes the same numbers and keeps the same files of all variants; make another one.",
                )
            sheet = sheet_of(document, plan, here.surroundings(session, row.project_id, document), rows)
            sheets.add_variants(session, row, _given(sheet))
            row.plan = json.dumps(plan.plain())
            row.state, row.trouble = "running", ""
        here.sheets.begin(path.sheet_id)
        return _read(path.sheet_id)

    return _with_rows(project, body.table, extend)


@blueprint.get("/sheets/<sheet_id>/variants", responses={200: VariantList, 404: ErrorState})
def list_variants(path: SheetPath, query: VariantsQuery) -> Answer:
    """List the variants of a proof sheet: all, or those that ended since."""
    with context().database.session() as session:
        row = sheets.get(session, path.sheet_id)
        count = sheets.counts(session, [row.id])[row.id]
        found = sheets.variants(session, row.id, query.since)
        return {"sheet": sheet_state(row, count), "variants": variants_told(row, found)}


@blueprint.post("/sheets/<sheet_id>/matches", responses={200: MatchList, 404: ErrorState})
def match_variants(path: SheetPath, body: MatchRequest) -> Answer:
    """Say for which variants a formula holds, or what is wrong with it; it reads their values and numbers by name."""
    with context().database.session() as session:
        row = sheets.get(session, path.sheet_id)
        found = variants_told(row, sheets.variants(session, path.sheet_id))
        empty = dict.fromkeys(Plan.of(json.loads(row.plan)).read)
    rows = [
        {**empty, **one["values"], **one["numbers"], "number": one["number"], "seconds": one["seconds"]}
        for one in found
    ]
    try:
        holds = held(rows, body.where) if rows else ()
    except ReticulaError as error:
        return {"numbers": [], "trouble": str(error)}
    return {"trouble": "", "numbers": [one["number"] for one, is_one in zip(found, holds, strict=True) if is_one]}


@blueprint.get("/sheets/<sheet_id>/variants/<int:number>/drawn", responses={404: ErrorState})
def read_drawn(path: VariantPath) -> Answer:
    """Read what draws a variant: a line of JSON (``look``, ``arrays``: digest and bytes of each), then the arrays."""
    here = context()
    with here.database.session() as session:
        content = sheets.variant(session, path.sheet_id, path.number).content
    found = here.drawn.path(content)
    if not found.is_file():
        return refuse(404, "not found", "The picture of this variant is not kept any more.")
    response = send_file(found, mimetype="application/octet-stream", etag=content)
    response.headers["Content-Encoding"] = "deflate"
    response.headers["Cache-Control"] = "private, max-age=86400"
    return response


@blueprint.get("/sheets/<sheet_id>/table", responses={404: ErrorState})
def read_table(path: SheetPath, query: TableQuery) -> Answer:
    """Read the variants as a CSV or Parquet table: values, numbers, counts, seconds, and what went wrong."""
    import pyarrow as pa
    from pyarrow import csv, parquet

    with context().database.session() as session:
        row = sheets.get(session, path.sheet_id)
        title, found = row.title, variants_told(row, sheets.variants(session, path.sheet_id))
    columns = columns_of(found, PLAIN, GROUPS, MORE, LINES)
    file = io.BytesIO()
    (csv.write_csv if query.ending == "csv" else parquet.write_table)(pa.table(columns), file)
    response = Response(file.getvalue(), mimetype="text/csv" if query.ending == "csv" else "application/octet-stream")
    response.headers.set("Content-Disposition", "attachment", filename=safe_file_name(f"{title}.{query.ending}"))
    return response
