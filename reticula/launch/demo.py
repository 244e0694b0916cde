"""Loads the demo project into a workshop that has none yet."""

from __future__ import annotations

import json
from pathlib import Path

from reticula.bundle import DEMO, demo_shapes
from reticula.launch.client import Client

__all__ = ["load_demo"]

TITLE = "Reef studio"
PUBLISHER = "Reef studio (demo)"
FIRST = "settlement_tile"
"""The graph that a new user sees."""


def load_demo(client: Client, depot: Client | None = None, key: Path | None = None) -> bool:
    """Make the demo project from the files in ``demo/``; returns False if there are projects already.

    Packages go into the catalogue, and others into the depot, signed by a key of the demo's own.
    """
    if client.get("/api/projects")["projects"]:
        return False
    for package in sorted((DEMO / "packages").glob("*.zip")):
        review = client.upload("/api/packages/reviews", package.name, package.read_bytes())
        client.post(f"/api/packages/reviews/{review['review']}", {})
    from reticula.core.packages import own_key, sign_package  # the launcher does without the core otherwise

    if depot is not None and key is not None:
        for package in sorted((DEMO / "depot").glob("*.zip")):
            name, _, release = package.stem.rpartition("-")
            depot.put(f"/packages/{name}@{release}", sign_package(package.read_bytes(), own_key(key), PUBLISHER))
    project = client.post("/api/projects", {"title": TITLE})
    for mesh in demo_shapes().values():
        client.upload(f"/api/projects/{project['id']}/assets", mesh.name, mesh.read_bytes())
    for path in sorted(DEMO.glob("*.json"), key=lambda path: (path.stem != FIRST, path.stem)):
        document = json.loads(path.read_text("utf-8"))
        made = client.post(f"/api/projects/{project['id']}/graphs", {"title": document["title"], "document": document})
        sheet = DEMO / "sheets" / f"{path.stem}.zip"
        if sheet.is_file():
            client.upload(f"/api/graphs/{made['id']}/sheets/file", sheet.name, sheet.read_bytes())
    return True
