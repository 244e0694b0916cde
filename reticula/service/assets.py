"""Assets: uploading, listing and fetching meshes."""

from __future__ import annotations

from typing import Any

from flask import request, send_file
from flask_openapi3 import APIBlueprint, Tag
from sqlalchemy.exc import OperationalError

from reticula.core.errors import FormatError
from reticula.core.formats import format_of
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.schemas import AssetList, AssetPath, AssetState, ErrorState, ProjectPath
from reticula.service.serving.parking import Result, result_later
from reticula.store import assets, projects
from reticula.store.database import is_deadlock
from reticula.store.errors import NameTaken
from reticula.store.models import Asset
from reticula.workers.tasks import Job
from reticula.workers.tickets import JobError

__all__ = ["blueprint", "keep_shape"]

NOT_ITS_FAULT = ("busy", "crashed", "limit", "stopped", "internal")
CHANCES = 40
"""How often a name is looked for anew when somebody else takes it at the same moment."""

blueprint = APIBlueprint("assets", __name__, url_prefix="/api", abp_tags=[Tag(name="assets")])


def _state(asset: Asset) -> dict[str, Any]:
    return {
        "id": asset.id,
        "name": asset.name,
        "file_name": asset.file_name,
        "size": asset.size,
        "summary": asset.summary,
    }


@blueprint.get("/projects/<project_id>/assets", responses={200: AssetList})
def list_assets(path: ProjectPath) -> Answer:
    """List the shapes of a project."""
    with context().database.session() as session:
        return {"assets": [_state(asset) for asset in assets.list_of(session, path.project_id)]}


@blueprint.post("/projects/<project_id>/assets", responses={201: AssetState, 413: ErrorState, 422: ErrorState})
def upload_asset(path: ProjectPath) -> Answer:
    """Upload a mesh file (multipart field ``file``); it is read once to see that it is whole."""
    with context().database.session() as session:
        projects.get(session, path.project_id)
    given = request.files.get("file")
    if given is None or not given.filename:
        raise FormatError("there is no file in this upload")
    file_name = assets.safe_file_name(given.filename)
    format_of(file_name)
    return keep_shape(path.project_id, file_name, given.read())


def keep_shape(project_id: str, file_name: str, data: bytes) -> Answer:
    """Answer a request by keeping a mesh file as a shape of a project; raise FormatError if it cannot be read."""
    if not data:
        raise FormatError("the file is empty")
    here = context()
    digest, stored = here.files.keep(data, file_name)
    job = Job("examine", shapes={file_name: (str(stored), digest)}, file_name=file_name)

    def keep(result: Result) -> Answer:
        try:
            summary = result()
        except JobError as error:
            if error.code not in NOT_ITS_FAULT:
                here.files.discard(digest, file_name)
            raise
        return _added(project_id, file_name, digest, len(data), summary), 201

    return result_later(job, keep, affinity=project_id)


def _added(project_id: str, file_name: str, digest: str, size: int, summary: dict[str, Any]) -> dict[str, Any]:
    """Add a shape under the next free name."""
    here = context()
    for chance in range(CHANCES):
        try:
            with here.database.session() as session:
                name = assets.free_name(session, project_id, file_name)
                return _state(assets.add(session, project_id, name, file_name, digest, size, summary))
        except (NameTaken, OperationalError) as error:
            if chance == CHANCES - 1 or (isinstance(error, OperationalError) and not is_deadlock(error)):
                raise
    raise AssertionError


@blueprint.get("/assets/<asset_id>/content", responses={404: ErrorState})
def read_asset(path: AssetPath) -> Answer:
    """Fetch the file as it was uploaded."""
    here = context()
    with here.database.session() as session:
        found = assets.get(session, path.asset_id)
    stored = here.files.path(found.digest, found.file_name)
    return send_file(stored, as_attachment=True, download_name=found.file_name, mimetype="application/octet-stream")


@blueprint.delete("/assets/<asset_id>", responses={204: None, 404: ErrorState})
def delete_asset(path: AssetPath) -> Answer:
    """Delete a shape. Graphs that use it say so until it is there again."""
    with context().database.session() as session:
        assets.delete(session, path.asset_id)
    return "", 204
