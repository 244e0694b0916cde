"""The page as it is handed out: compressed to browsers that can read it, and kept by them for good."""

from __future__ import annotations

from pathlib import Path
from typing import Any

WEB = Path(__file__).resolve().parents[2] / "web" / "dist"


def test_scripts_are_compressed_for_browsers_that_can_read_it(app: Any) -> None:
    client = app.test_client()
    script = max((WEB / "assets").glob("*.js"), key=lambda path: path.stat().st_size)
    name = f"/assets/{script.name}"
    packed = client.get(name, headers={"Accept-Encoding": "gzip, br"})
    assert packed.headers["Content-Encoding"] == "br"
    assert packed.data == script.with_name(f"{script.name}.br").read_bytes()
    assert len(packed.data) < script.stat().st_size / 3
    plain = client.get(name, headers={"Accept-Encoding": "br;q=0, gzip"})
    assert "Content-Encoding" not in plain.headers
    assert plain.data == script.read_bytes()
    for answer in (packed, plain):
        assert answer.mimetype == "text/javascript"
        assert "immutable" in answer.headers["Cache-Control"]
        assert "Accept-Encoding" in answer.headers["Vary"]
    page = client.get("/", headers={"Accept-Encoding": "br"})
    assert page.headers["Cache-Control"] == "no-cache"
    assert page.mimetype == "text/html"
