"""Evaluations: run a graph, look at its results, export them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from flask import Response, send_file
from flask_openapi3 import APIBlueprint, Tag
from werkzeug.utils import secure_filename

from reticula.contract.queries import DifferenceQuery, LiveQuery
from reticula.core.context import using
from reticula.core.errors import FormatError, GraphError
from reticula.core.formats import FORMATS, WRITTEN
from reticula.core.graph import split_feed
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.values.formula_to_nodes import formula_to_nodes, script_to_nodes
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula, value_feeds
from reticula.core.operators.scripting.controls import Code
from reticula.service.answers import Answer
from reticula.service.assets import keep_shape
from reticula.service.context import context
from reticula.service.errors import refuse
from reticula.service.loading import Loaded, load
from reticula.service.people.principal import asker
from reticula.service.schemas import (
    AssetState,
    Basis,
    BufferPath,
    ChecksRequest,
    ChecksState,
    ErrorState,
    EvaluationRequest,
    EvaluationState,
    ExportQuery,
    FreezeRequest,
    GraphPath,
    LookRequest,
    LookState,
    RewriteRequest,
    RewriteState,
    TextRequest,
    TextState,
    TicketPath,
    TicketQuery,
)
from reticula.service.serving.parking import Result, answer_later, result_later
from reticula.workers.tasks import Job
from reticula.workers.tickets import FIRST, LAST, Ticket

__all__ = ["blueprint"]

CHECK_SECONDS = 60.0
blueprint = APIBlueprint("evaluations", __name__, url_prefix="/api", abp_tags=[Tag(name="evaluations")])


def _submit(job: Job, loaded: Loaded, channel: str, priority: int) -> Ticket:
    return context().pool.submit(job, affinity=loaded.project_id, channel=channel, person=asker(), priority=priority)


def _state(ticket: Ticket, revision: int | None = None) -> dict[str, Any]:
    done, total, node = ticket.progress
    result = ticket.result or {}
    return {
        "ticket": ticket.id,
        "state": ticket.state,
        "progress": {"done": done, "total": total, "node": node},
        "revision": revision,
        "nodes": result.get("nodes"),
        "node": result.get("node"),
        "looks": result.get("looks"),
        "looking": result.get("looking"),
        "timely": result.get("timely"),
        "keyed": result.get("keyed"),
        "error": ticket.error,
    }


@blueprint.post("/graphs/<graph_id>/evaluations", responses={200: EvaluationState, 422: ErrorState})
def evaluate(path: GraphPath, body: EvaluationRequest) -> Answer:
    """Evaluate a graph; answers at once if it is done within ``wait`` seconds, else with a ticket to ask again."""
    loaded = load(path.graph_id, body)
    node = body.node or loaded.level.get("looking_at")
    if not node or split_feed(node)[0] not in loaded.level["nodes"]:
        node = None
    targets = [node] if body.only_node and node else None
    job = loaded.job("evaluate", node, targets, queries=body.queries)
    ticket = _submit(job, loaded, body.channel, LAST if body.ahead else FIRST)
    return answer_later(ticket, body.wait, lambda: _state(ticket, loaded.revision))


@blueprint.get("/evaluations/<ticket_id>", responses={200: EvaluationState, 404: ErrorState})
def read_evaluation(path: TicketPath, query: TicketQuery) -> Answer:
    """Ask how far an evaluation is; waits up to ``wait`` seconds for its end."""
    ticket = context().pool.find(path.ticket_id)
    if ticket is None:
        return refuse(404, "not found", "This evaluation is not known any more; evaluate again.")
    return answer_later(ticket, query.wait, lambda: _state(ticket))


@blueprint.delete("/evaluations/<ticket_id>", responses={204: None})
def stop_evaluation(path: TicketPath) -> Answer:
    """Stop an evaluation."""
    ticket = context().pool.find(path.ticket_id)
    if ticket is not None:
        context().pool.stop(ticket)
    return "", 204


@blueprint.post("/graphs/<graph_id>/looks", responses={200: LookState, 422: ErrorState})
def look(path: GraphPath, body: LookRequest) -> Answer:
    """Look at one node's result without disturbing a running evaluation, e.g. for a page of the ledger."""
    loaded = load(path.graph_id, body)
    node = loaded.require(body.node)
    compared = [query for query in body.queries if isinstance(query, DifferenceQuery)]
    others = [loaded.require(query.to) for query in compared if query.at is None]
    earlier = {query.at for query in compared if query.at is not None}
    then = {
        revision: load(path.graph_id, Basis(revision=revision, level=body.level, frame=body.frame))
        for revision in earlier
    }
    for query in compared:
        if query.at is not None:
            then[query.at].require(query.to)
    moments = {revision: moment.job("evaluate", None, None) for revision, moment in then.items()}
    others += [feed for query in body.queries if isinstance(query, LiveQuery) for feed in loaded.feeds(query.node)]
    job = loaded.job("evaluate", node, [node, *others], queries=body.queries, moments=moments)
    return result_later(job, lambda result: {"looks": result()["looks"]}, affinity=loaded.project_id)


@blueprint.post("/graphs/<graph_id>/checks", responses={200: ChecksState, 422: ErrorState})
def check(path: GraphPath, body: ChecksRequest) -> Answer:
    """Say what is wrong with the result of each node, in numbers; an evaluation on the same channel supersedes this."""
    loaded = load(path.graph_id, body)
    job = loaded.job("check", None, None)
    ticket = _submit(job, loaded, body.channel, LAST)
    return answer_later(ticket, CHECK_SECONDS, lambda: {"nodes": (ticket.result or {}).get("nodes", {})})


@blueprint.post("/graphs/<graph_id>/texts", responses={200: TextState, 422: ErrorState})
def read_text(path: GraphPath, body: TextRequest) -> Answer:
    """Tell what a formula or script means while it is being written: its error, its names, what it gives."""
    loaded = load(path.graph_id, body)
    feeds = loaded.feeds(body.node)
    text = {"parameter": body.parameter, "source": body.source, "elements": body.elements}
    job = loaded.job("inspect", body.node, feeds, text=text)
    return result_later(job, lambda result: TextState.model_validate(result()).model_dump(), affinity=loaded.project_id)


@blueprint.post("/graphs/<graph_id>/rewrites", responses={200: RewriteState, 422: ErrorState})
def rewrite(path: GraphPath, body: RewriteRequest) -> Answer:
    """Write a wired parameter as text, or a formula or script as value nodes; changes nothing."""
    loaded = load(path.graph_id, body)
    loaded.require(body.node)
    document = loaded.level
    with using(library=MemoryLibrary(loaded.around.library)):
        if body.to == "text":
            feeds = value_feeds(document["nodes"][body.node])
            if body.parameter not in feeds:
                raise GraphError(f"no wire ends at '{body.parameter}'", node=body.node, parameter=body.parameter)
            return {"nodes": {}, "value": {"formula": nodes_to_formula(document, feeds[body.parameter])}, "last": None}
        if isinstance(operator_of(document["nodes"][body.node]).parameter(body.parameter), Code):
            drawn = script_to_nodes(document, body.node)
        else:
            drawn = formula_to_nodes(document, body.node, body.parameter)
    return {"nodes": drawn.nodes, "value": drawn.value, "last": drawn.last}


@blueprint.get("/graphs/<graph_id>/export", responses={422: ErrorState})
def export(path: GraphPath, query: ExportQuery) -> Answer:
    """Download a node's result as a mesh file."""
    if query.format not in WRITTEN:
        raise FormatError(f"there is no format '{query.format}'; there are {', '.join(WRITTEN)}")
    loaded = load(path.graph_id, Basis(level=query.level, frame=query.frame))
    node = split_feed(loaded.require(query.node))[0]
    title = loaded.level["nodes"][node].get("title") or node
    stem = secure_filename(f"{loaded.document.get('title') or 'mesh'}-{title}".lower().replace(" ", "_")) or "mesh"
    file_name = f"{stem}.{query.format}"
    options = options_of(query)
    job = loaded.job("export", query.node, [query.node], file_name=file_name, options=options)

    def hand_out(result: Result) -> Response:
        data, notes = _exported(result())
        response = Response(data, mimetype="application/octet-stream")
        response.headers.set("Content-Disposition", "attachment", filename=file_name)
        response.headers["X-Notes"] = json.dumps(notes)
        return response

    return result_later(job, hand_out, affinity=loaded.project_id)


def options_of(query: ExportQuery) -> dict[str, str]:
    """Return the options of a format that a request names; raise FormatError for what is none."""
    pairs = [one.partition(":") for one in query.options.split(",") if one]
    found = {"encoding": query.encoding} if query.encoding else {}
    known = FORMATS[query.format].options
    for name, _, word in pairs:
        if word not in known.get(name, ()):
            there = "; ".join(f"{option}: {', '.join(words)}" for option, words in known.items()) or "none"
            raise FormatError(f"{FORMATS[query.format].name} has no option {name}={word}; there are {there}")
        found[name] = word
    return found


def _exported(made: dict[str, Any]) -> tuple[bytes, list[str]]:
    """Return the bytes of an exported file, which is not kept, and what was noted about it."""
    stored = Path(made["path"])
    data = stored.read_bytes()
    stored.unlink(missing_ok=True)
    return data, made["notes"]


@blueprint.post("/graphs/<graph_id>/freezes", responses={201: AssetState, 422: ErrorState})
def freeze(path: GraphPath, body: FreezeRequest) -> Answer:
    """Keep a node's result as a shape of the project, so that work can go on from it by hand; the graph stays."""
    loaded = load(path.graph_id, body)
    node = loaded.require(body.node)
    stem = secure_filename(body.name.strip().lower().replace(" ", "_")) or "shape"
    job = loaded.job("export", node, [node], file_name=f"{stem}.ply")
    return result_later(
        job,
        lambda result: keep_shape(loaded.project_id, f"{stem}.ply", _exported(result())[0]),
        affinity=loaded.project_id,
    )


@blueprint.get("/buffers/<digest>", responses={404: ErrorState})
def read_buffer(path: BufferPath) -> Answer:
    """Fetch an array by the digest of its content. It never changes, so the browser keeps it."""
    buffers = context().pool.buffers
    try:
        found = buffers.path(path.digest)
    except ValueError:
        return refuse(404, "not found", "This is not the digest of an array.")
    if not found.exists():
        return refuse(404, "not found", "This array is not kept any more; evaluate again.")
    response = send_file(found, mimetype="application/octet-stream")
    response.headers["Cache-Control"] = "private, max-age=86400, immutable"
    return response
