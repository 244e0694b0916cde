"""The application: puts the parts together."""

from __future__ import annotations

from functools import partial
from mimetypes import guess_type
from pathlib import Path
from typing import Any

from flask import Response, request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from werkzeug.routing import PathConverter

from reticula import __version__
from reticula.many.for_evaluators import LoopErrand, Overflow
from reticula.many.shared_cluster import SharedCluster, begun
from reticula.service import assets, catalogue, changes, evaluations, frames, graphs, history, projects
from reticula.service.again import RepeatingApp
from reticula.service.company import meeting
from reticula.service.company.rooms import Rooms
from reticula.service.config import Config
from reticula.service.context import Context
from reticula.service.errors import install_errors, refuse, refuse_validation
from reticula.service.monitoring import metrics
from reticula.service.monitoring.logs import install_request_log
from reticula.service.monitoring.metrics import install_metrics
from reticula.service.people import members, sessions
from reticula.service.people.access import install_access
from reticula.service.pulse import Pulse, depot_answers
from reticula.service.request_limits import install_limits
from reticula.service.room import install_room
from reticula.service.security import install_security
from reticula.service.serving.parking import install_parking
from reticula.service.sharing import library, packages
from reticula.service.sheets import files as sheet_files
from reticula.service.sheets import routes as sheets
from reticula.service.sheets.maker import SheetMaker
from reticula.service.shipped import demos, examples
from reticula.service.shipped.documentation import install_documentation
from reticula.service.surroundings import surroundings
from reticula.store.assets import AssetFiles
from reticula.store.database import Database
from reticula.store.sheets import DrawnFiles
from reticula.workers.pool import Pool

__all__ = ["bare_app", "create_app"]

BLUEPRINTS = (
    sessions.blueprint,
    projects.blueprint,
    members.blueprint,
    graphs.blueprint,
    history.blueprint,
    meeting.blueprint,
    changes.blueprint,
    assets.blueprint,
    evaluations.blueprint,
    frames.blueprint,
    catalogue.blueprint,
    demos.blueprint,
    examples.blueprint,
    library.blueprint,
    packages.blueprint,
    sheets.blueprint,
    sheet_files.blueprint,
    metrics.blueprint,
)


def bare_app() -> OpenAPI:
    """Return the application without database and evaluators: enough to know its OpenAPI."""
    app = RepeatingApp(
        "reticula",
        info=Info(title="Reticula", version=__version__),
        validation_error_callback=refuse_validation,
        doc_ui=False,
        static_folder=None,
    )
    for blueprint in BLUEPRINTS:
        app.register_api(blueprint)
    return app


def create_app(config: Config) -> OpenAPI:
    """Return the application, its evaluators started."""
    app = bare_app()
    app.config["MAX_CONTENT_LENGTH"] = config.upload_bytes
    app.json.sort_keys = False  # type: ignore[attr-defined]  # Flask's own provider has it
    database = Database(config.database_url)
    files, drawn = AssetFiles(config.var / "assets"), DrawnFiles(config.var / "sheets")
    how: dict[str, Any] = {"store": config.store, "workers": config.workers, "limits": config.limits}
    cluster = SharedCluster(partial(begun, config.cluster, **how, aside=True))
    pool = Pool(config.var / "buffers", config.workers, config.limits, spreader=partial(LoopErrand, cluster))
    parts = Context(
        config,
        database,
        files,
        pool,
        Pulse(database.is_up, partial(depot_answers, config.depot) if config.depot else None),
        Rooms(),
        drawn,
        SheetMaker(database, drawn, cluster, partial(surroundings, files)),
        cluster,
        Overflow(cluster, pool.waiting, pool.buffers) if config.overflow else None,
    )
    app.extensions["reticula"] = parts
    install_request_log(app)
    install_metrics(app)
    install_security(app, config)
    install_access(app)
    install_room(app, config.var)
    install_limits(app)
    install_parking(app)
    install_errors(app)
    install_documentation(app, config.docs)
    _serve_pages(app, config.web)
    return app


class _Page(PathConverter):
    """Any path but those of the service's own interface: what that does not know, or not by this method, it says."""

    regex = r"(?!api/)[^/].*?"


def _serve_pages(app: OpenAPI, web: Path) -> None:
    app.url_map.converters["page"] = _Page

    @app.route("/", defaults={"name": "index.html"})
    @app.route("/<page:name>")
    def page(name: str) -> Response:
        if "\x00" in name:
            return refuse(404, "not found", f"There is no '/{name}'.")
        if not (web / "index.html").exists():
            return refuse(503, "not built", "The interface is not built; run 'make start'.")
        if not (web / name).is_file():
            return refuse(404, "not found", f"There is no '/{name}'.")
        packed = request.accept_encodings.quality("br") > 0 and (web / f"{name}.br").is_file()
        response = send_from_directory(web, f"{name}.br" if packed else name, mimetype=guess_type(name)[0])
        if packed:
            response.headers["Content-Encoding"] = "br"
        response.vary.add("Accept-Encoding")
        fixed = name.startswith("assets/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if fixed else "no-cache"
        return response
