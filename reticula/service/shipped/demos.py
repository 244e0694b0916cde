"""Demos that ship with the product: offered where a project is empty, and taken into it as graphs of its own."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

from flask import send_file
from flask_openapi3 import APIBlueprint, Tag

from reticula.bundle import DEMO, demo_shapes
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.service.answers import Answer
from reticula.service.errors import refuse
from reticula.service.schemas.demos import DemoList, DemoPath, DemoState
from reticula.service.schemas.graphs import ErrorState

__all__ = ["blueprint", "shapes_for"]

blueprint = APIBlueprint("demos", __name__, url_prefix="/api/demos", abp_tags=[Tag(name="demos")])


@cache
def _demos() -> dict[str, dict[str, Any]]:
    """All demos by name. They are files of the release, so they are read once."""
    return _graphs_in(DEMO)


@cache
def _tutorials() -> dict[str, dict[str, Any]]:
    """The graphs of the tutorials, which the documentation opens by name."""
    return _graphs_in(DEMO / "tutorials")


def _graphs_in(folder: Path) -> dict[str, dict[str, Any]]:
    return {path.stem: json.loads(path.read_text("utf-8")) for path in sorted(folder.glob("*.json"))}


def _summary(name: str, document: dict[str, Any]) -> dict[str, Any]:
    return {
        "name": name,
        "title": document["title"],
        "about": document.get("notes", ""),
        "cards": len(document["nodes"]),
        "picture": (DEMO / "pictures" / "graphs" / f"{name}.webp").is_file(),
        "sheet": (DEMO / "sheets" / f"{name}.zip").is_file(),
    }


@blueprint.get("", responses={200: DemoList})
def list_demos() -> Answer:
    """List the demos that ship with the product."""
    return {"demos": [_summary(name, document) for name, document in _demos().items()]}


@blueprint.get("/<name>", responses={200: DemoState, 404: ErrorState})
def read_demo(path: DemoPath) -> Answer:
    """Read a demo, or the graph of a tutorial: its graph, and which shapes the project must have for it."""
    document = _demos().get(path.name) or _tutorials().get(path.name)
    if document is None:
        return refuse(404, "not found", f"There is no demo '{path.name}'.")
    return {**_summary(path.name, document), "document": document, "shapes": shapes_for(document)}


def shapes_for(document: dict[str, Any]) -> list[dict[str, str]]:
    """Return the shapes that a graph names, as a shape or as a file, and that ship with the product: their names in a
    project, and those of their files.
    """
    wanted = stored_shapes(document)
    shipped = demo_shapes().items()
    return [{"name": name, "file_name": path.name} for name, path in shipped if {name, path.name} & wanted]


@blueprint.get("/<name>/picture", responses={404: ErrorState})
def read_demo_picture(path: DemoPath) -> Answer:
    """Fetch the picture of a demo, as WebP."""
    file = DEMO / "pictures" / "graphs" / f"{path.name}.webp"
    if not file.is_file():
        return refuse(404, "not found", f"There is no picture of '{path.name}'.")
    return send_file(file, mimetype="image/webp", max_age=3600)


@blueprint.get("/<name>/sheet", responses={404: ErrorState})
def read_demo_sheet(path: DemoPath) -> Answer:
    """Fetch the proof sheet of a demo, as a file that is brought to its graph."""
    file = DEMO / "sheets" / f"{path.name}.zip"
    if not file.is_file():
        return refuse(404, "not found", f"There is no proof sheet of '{path.name}'.")
    return send_file(file, mimetype="application/zip", download_name=file.name)


@blueprint.get("/shapes/<name>", responses={404: ErrorState})
def read_demo_shape(path: DemoPath) -> Answer:
    """Fetch a shape or table that demos use, as a file."""
    file = demo_shapes().get(path.name)
    if file is None:
        return refuse(404, "not found", f"The demos have no shape '{path.name}'.")
    return send_file(file, mimetype="application/octet-stream", download_name=file.name)
