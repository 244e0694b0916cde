"""A disk that is nearly full: what would be kept is refused, all else goes on."""

from __future__ import annotations

from types import SimpleNamespace
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.service import room


@pytest.mark.parametrize("free", [0, room.LEAST_FREE - 1, room.LEAST_FREE])
def test_reading_goes_on(
    client: FlaskClient, graph: dict[str, Any], monkeypatch: pytest.MonkeyPatch, free: int
) -> None:
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: SimpleNamespace(free=free))
    path = f"/api/graphs/{graph['id']}"
    patch = [{"op": "add", "path": "/title", "value": "Full"}]
    kept = client.post(f"{path}/edits", json={"revision": graph["revision"], "patch": patch, "label": "l"})
    assert kept.status_code == (200 if free >= room.LEAST_FREE else 507)
    if kept.status_code == 507:
        assert kept.json["code"] == "disk full"
        assert "can be read" in kept.json["message"]
        assert client.post("/api/projects", json={"title": "More"}).status_code == 507
        assert client.get("/api/health").json["status"] == "degraded"
    assert client.get(path).status_code == 200
    assert client.post(f"{path}/evaluations", json={"wait": 20}).json["state"] == "done"
    assert client.delete(path).status_code == 204, "taking away makes room"
