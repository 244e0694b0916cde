"""Packages in: looked at first, then taken. From a file, or from the depot; and out to the depot."""

from __future__ import annotations

import contextlib
import re
import secrets
import shutil
import time
from pathlib import Path

from flask import request
from flask_openapi3 import APIBlueprint, Tag

from reticula.core.errors import FormatError
from reticula.core.packages import Signature, definition_key, own_key, sign_package
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.errors import refuse
from reticula.service.operator_schemas import OperatorPath
from reticula.service.schemas import (
    DepotState,
    ErrorState,
    ImportRequest,
    ImportState,
    ReviewPath,
    ReviewState,
)
from reticula.service.serving.parking import Result, result_later
from reticula.service.sharing.depot_client import Depot, DepotDown
from reticula.service.sharing.library import Came, keep_definition, package_bytes
from reticula.service.sharing.package_signatures import judged, publisher_name
from reticula.store import library
from reticula.store.errors import NotFound
from reticula.workers.tasks import Job

__all__ = ["blueprint"]

blueprint = APIBlueprint("packages", __name__, url_prefix="/api", abp_tags=[Tag(name="packages")])
KEPT_SECONDS = 3600.0
NAME = re.compile(r"[0-9a-f]{16}\Z")


def _folder() -> Path:
    folder = context().config.var / "reviews"
    folder.mkdir(parents=True, exist_ok=True)
    for old in folder.glob("*.zip"):
        with contextlib.suppress(FileNotFoundError):
            if time.time() - old.stat().st_mtime > KEPT_SECONDS:
                old.unlink()
    return folder


def _reviewed(data: bytes, origin: str) -> Answer:
    """Have a package checked in an evaluator, keep it until it is decided about, and tell what it would bring."""
    here = context()
    with here.database.session() as session:
        known = library.library_of(session)
    name = secrets.token_hex(8)
    stored = _folder() / f"{name}.zip"
    stored.write_bytes(data)

    def tell(result: Result) -> Answer:
        try:
            found = result()
        except BaseException:
            stored.unlink(missing_ok=True)
            raise
        stored.with_suffix(".origin").write_text(origin)
        with here.database.session() as session:
            signed = judged(session, here.config, found["main"], found["signature"])
        return {"review": name, **found, "signature": signed}, 201

    job = Job("review", library=dict(known.definitions), about={"path": str(stored)})
    return result_later(job, tell, affinity="packages", person="packages")


@blueprint.post("/packages/reviews", responses={201: ReviewState, 422: ErrorState})
def review_upload() -> Answer:
    """Look at a package (multipart field ``file``): what it would bring. Nothing is changed yet."""
    given = request.files.get("file")
    if given is None or not given.filename:
        raise FormatError("there is no file in this upload")
    return _reviewed(given.read(), f"from the file {given.filename[:120]}")


@blueprint.post("/packages/reviews/<review_id>", responses={200: ImportState, 404: ErrorState, 422: ErrorState})
def take(path: ReviewPath, body: ImportRequest) -> Answer:
    """Take a package that was looked at: all of it, or nothing if something is wrong."""
    stored = _folder() / f"{path.review_id}.zip"
    if not NAME.match(path.review_id) or not stored.exists():
        raise NotFound("This package is not waiting any more; open it again.")
    origin = stored.with_suffix(".origin").read_text()
    with context().database.session() as session:
        known = library.library_of(session)
    unpacked = stored.with_suffix(".parts")

    def keep(result: Result) -> Answer:
        try:
            found = result()
            shapes = {name: (told, Path(path).read_bytes()) for name, (told, path) in found["shapes"].items()}
            came = Came(shapes, origin, Signature(**found["signature"]) if found["signature"] else None)
            with context().database.session() as session:
                for definition, picture in zip(found["definitions"], found["pictures"], strict=True):
                    keep_definition(session, definition, Path(picture).read_bytes() if picture else b"", came)
        finally:
            shutil.rmtree(unpacked, ignore_errors=True)
        stored.unlink(missing_ok=True)
        stored.with_suffix(".origin").unlink(missing_ok=True)
        return {"brought": [definition_key(one) for one in found["definitions"]], "kept": found["kept"]}

    about = {"path": str(stored), "unpacked": str(unpacked), "choices": body.choices}
    job = Job("unpack", library=dict(known.definitions), about=about)
    return result_later(job, keep, affinity="packages", person="packages")


# ---- the depot


def _depot() -> Depot:
    return Depot(context().config.depot, context().config.depot_token)


@blueprint.get("/depot", responses={200: DepotState})
def list_depot() -> Answer:
    """List what the depot has; if it does not answer, say so."""
    with context().database.session() as session:
        here = set(library.keys(session))
    try:
        found = _depot().list()
    except DepotDown as error:
        return {"available": False, "message": str(error), "packages": []}
    return {
        "available": True,
        "message": "",
        "packages": [{**entry, "here": entry["operator"] in here} for entry in found],
    }


@blueprint.post("/depot/<operator>/publish", responses={204: None, 404: ErrorState, 409: ErrorState, 503: ErrorState})
def send_to_depot(path: OperatorPath) -> Answer:
    """Put a release into the depot, with all that it needs."""
    config = context().config
    with context().database.session() as session:
        data = package_bytes(session, path.operator)
    key = own_key(config.signing_key)
    try:
        refused = _depot().publish(path.operator, sign_package(data, key, publisher_name(config)))
    except DepotDown as error:
        return refuse(503, "depot", str(error))
    return refuse(409, "depot", refused) if refused else ("", 204)


@blueprint.post("/depot/<operator>/fetch", responses={201: ReviewState, 422: ErrorState, 503: ErrorState})
def fetch_from_depot(path: OperatorPath) -> Answer:
    """Fetch a package from the depot and look at it, as at a file."""
    try:
        data = _depot().fetch(path.operator)
    except DepotDown as error:
        return refuse(503, "depot", str(error))
    return _reviewed(data, "from the depot")
