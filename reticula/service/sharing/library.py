"""The catalogue's published operators: publish, compare, read, and hand out as packages."""

from __future__ import annotations

import base64
import hashlib
import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from flask import Response, send_file
from flask_openapi3 import APIBlueprint, Tag
from sqlalchemy.orm import Session

from reticula.core.context import using
from reticula.core.errors import FormatError, GraphError
from reticula.core.graph.nesting.contracts import condition_text
from reticula.core.graph.nesting.graph_operator import published_operator
from reticula.core.graph.structure.linked import resolved
from reticula.core.packages import Signature, definition_key, differences, package_shapes, write_package
from reticula.core.packages.definition import content_name
from reticula.service.answers import Answer
from reticula.service.context import Context, context
from reticula.service.errors import refuse
from reticula.service.operator_schemas import OperatorPath
from reticula.service.schemas import (
    DifferenceQuery,
    DifferenceState,
    ErrorState,
    GraphPath,
    PublicationRequest,
    PublicationState,
)
from reticula.service.serving.parking import Result, result_later
from reticula.store import assets, graphs, library
from reticula.store.models import Asset
from reticula.workers.tasks import Job

__all__ = ["Came", "blueprint", "keep_definition", "package_bytes", "published_states"]

blueprint = APIBlueprint("library", __name__, url_prefix="/api", abp_tags=[Tag(name="catalogue")])
PNG = b"\x89PNG\r\n\x1a\n"


def published_states(session: Session) -> list[dict[str, Any]]:
    """Return every release of every published operator as its form, its help and the finder need it."""
    rows = {f"{row.name}@{row.release_number}": row for row in library.list_all(session)}
    known = library.library_of(session)
    made = []
    with using(library=known):
        for key, row in rows.items():
            definition = known.definitions[key]
            told = published_operator(definition).describe()
            told["published"] = {
                "name": row.name,
                "release": row.release_number,
                "releases": known.releases(row.name),
                "promises": [condition_text(one) for one in definition["graph"].get("contracts", [])],
                "changes": definition.get("changes", ""),
                "examples": [one["title"] for one in definition.get("examples", [])],
                "picture": bool(row.picture),
                "origin": f"{row.origin}, signed by {row.publisher} ({row.signer})" if row.signer else row.origin,
                "presets": definition["graph"].get("presets", {}),
            }
            made.append(told)
    return made


@blueprint.post("/graphs/<graph_id>/publications", responses={200: PublicationState, 422: ErrorState, 409: ErrorState})
def publish(path: GraphPath, body: PublicationRequest) -> Answer:
    """Publish a folded card into the catalogue, its example and the promises of the release before tried first."""
    here = context()
    picture = _picture(body.picture)
    with here.database.session() as session:
        graph = graphs.get(session, path.graph_id)
        document = dict(resolved(graphs.drafted(session, graph, body.draft, body.revision)))
        around = here.surroundings(session, graph.project_id, document)
        known = library.library_of(session)
        _, came = here.operators(session, known.definitions)
        own = assets.by_name(session, graph.project_id)
        project_id = graph.project_id
    with using(library=known):
        used = package_shapes(document)
    stored: dict[str, Any] = {}
    shapes = around.shapes | came
    for name in sorted(used & set(own)):
        asset = own[name]
        digest = hashlib.sha256(here.files.path(asset.digest, asset.file_name).read_bytes()).hexdigest()
        stored[name] = content_name(name, digest), {"file_name": asset.file_name, "sha256": digest}
        shapes[stored[name][0]] = shapes[name]
    for operator in known.definitions.values():
        for name, told in operator.get("shapes", {}).items():
            if name in used:
                stored[name] = name, told
    about = body.model_dump(include={"name", "release", "title", "summary", "help", "changes", "tags", "reason"})
    job = Job(
        "publish",
        document,
        shapes,
        body.node,
        level=body.level,
        library=known.definitions,
        about={**about, "stored": stored},
    )

    def keep(result: Result) -> dict[str, Any]:
        return _published(body, result(), stored, own, picture)

    return result_later(job, keep, affinity=project_id)


def _published(
    body: PublicationRequest, made: dict[str, Any], stored: dict[str, Any], own: dict[str, Asset], picture: bytes
) -> dict[str, Any]:
    """Keep what was prepared as a release, unless it breaks a promise without a reason or was only tried."""
    here = context()
    definition = made["definition"]
    if made["breaks"] and not body.reason.strip() and not body.dry:
        raise GraphError(
            f"this release breaks what {made['before']} promised: {'; '.join(made['breaks'])}. Mend "
            "it, or give a reason",
            parameter="reason",
        )
    if not body.dry:
        with here.database.session() as session:
            for name, (new, told) in stored.items():
                if new in definition.get("shapes", {}) and name in own:
                    library.add_shape(session, new, told["file_name"], own[name].digest)
            _add(here, session, definition, picture, "published here")
    return {"operator": definition_key(definition), "published": not body.dry} | {
        key: made[key] for key in ("before", "differences", "breaks", "trials")
    }


def _picture(text: str) -> bytes:
    try:
        data = base64.b64decode(text.partition(",")[2] if text.startswith("data:") else text, validate=True)
    except ValueError:
        raise FormatError("the picture is not base64") from None
    if data and not data.startswith(PNG):
        raise FormatError("the picture is not a PNG")
    return data


def _add(
    here: Context,
    session: Session,
    definition: dict[str, Any],
    picture: bytes,
    origin: str,
    signature: Signature | None = None,
) -> None:
    kept = here.files.keep(picture, "picture.png")[0] if picture else ""
    library.add(session, definition, kept, origin, signature)


@dataclass(frozen=True)
class Came:
    """What came with a package from elsewhere: shapes by name (file name, content), from where, and who signed it."""

    shapes: dict[str, tuple[str, bytes]]
    origin: str
    signature: Signature | None


def keep_definition(session: Session, definition: dict[str, Any], picture: bytes, came: Came) -> None:
    """Add a definition that came from elsewhere, with its picture and its shapes."""
    here = context()
    for name in definition.get("shapes", {}):
        file_name, data = came.shapes[name]
        library.add_shape(session, name, file_name, here.files.keep(data, file_name)[0])
    _add(here, session, definition, picture, came.origin, came.signature)


@blueprint.get("/library/<operator>/differences", responses={200: DifferenceState, 404: ErrorState})
def compare(path: OperatorPath, query: DifferenceQuery) -> Answer:
    """Tell what differs between two releases of an operator."""
    with context().database.session() as session:
        old, new = (
            json.loads(library.get(session, f"{path.operator}@{one}").definition) for one in (query.before, query.after)
        )
    return differences(old, new).describe()


@blueprint.get("/library/<operator>/definition", responses={404: ErrorState})
def read_definition(path: OperatorPath) -> Answer:
    """Read the definition of a release, ``name@1.0.0``."""
    with context().database.session() as session:
        return json.loads(library.get(session, path.operator).definition)


@blueprint.get("/library/<operator>/picture", responses={404: ErrorState})
def read_picture(path: OperatorPath) -> Answer:
    """Fetch the picture of a release."""
    here = context()
    with here.database.session() as session:
        found = library.get(session, path.operator)
    if not found.picture:
        return refuse(404, "not found", f"'{path.operator}' has no picture.")
    return send_file(here.files.path(found.picture, "picture.png"), mimetype="image/png")


@blueprint.get("/library/<operator>/package", responses={404: ErrorState})
def read_package_file(path: OperatorPath) -> Answer:
    """Download a release with all that it needs as one file."""
    with context().database.session() as session:
        data = package_bytes(session, path.operator)
    response = Response(data, mimetype="application/zip")
    response.headers.set("Content-Disposition", "attachment", filename=f"{path.operator.replace('@', '-')}.zip")
    return response


def package_bytes(session: Session, operator: str) -> bytes:
    """Return a release with all that it needs as a package; raise NotFound."""
    here = context()
    library.get(session, operator)
    definitions, shapes = here.operators(session, [operator])
    files = {}
    for definition in definitions.values():
        for name, told in definition.get("shapes", {}).items():
            if name in shapes:
                files[name] = told["file_name"], Path(shapes[name][0]).read_bytes()
    pictures = {}
    for key in definitions:
        picture = library.get(session, key).picture
        if picture:
            pictures[key] = here.files.path(picture, "picture.png").read_bytes()
    return write_package(operator, definitions, files, pictures)
