"""The documentation site under ``/docs``: files that `make docs` built, under a policy of their own."""

from __future__ import annotations

import base64
import hashlib
import re
from functools import lru_cache
from pathlib import Path

from flask import Flask, Response, redirect, send_from_directory

from reticula.service.errors import refuse
from reticula.service.security import POLICY

__all__ = ["install_documentation"]

INLINE = re.compile(r"<script>(.*?)</script>", re.DOTALL)
OWN_ONLY = "script-src 'self'"
ALONE = "frame-ancestors 'none'"
"""The bench shows pages of the documentation in a frame; nobody else does."""


def install_documentation(app: Flask, folder: Path) -> None:
    """Serve the site in a folder. Its pages have scripts within: the policy names just these by their hashes."""

    @app.route("/docs")
    @app.route("/docs/")
    def documentation() -> Response:
        return redirect("/docs/index.html")  # type: ignore[return-value]  # Werkzeug's own response, which Flask sends

    @app.route("/docs/<path:name>")
    def documentation_page(name: str) -> Response:
        if not (folder / "index.html").exists():
            return refuse(503, "not built", "The documentation is not built; run 'make docs'.")
        if "\x00" in name or not (folder / name).is_file():
            return refuse(404, "not found", f"There is no page '{name}' in the documentation.")
        response = send_from_directory(folder, name)
        if name.endswith(".html"):
            found = folder / name
            response.headers["Content-Security-Policy"] = _policy(found, found.stat().st_mtime_ns)
        response.headers["Cache-Control"] = "no-cache"
        return response


@lru_cache(maxsize=512)
def _policy(page: Path, changed: int) -> str:
    scripts = {hashlib.sha256(text.encode()).digest() for text in INLINE.findall(page.read_text("utf-8"))}
    hashes = sorted(f"'sha256-{base64.b64encode(one).decode()}'" for one in scripts)
    return POLICY.replace(OWN_ONLY, " ".join([OWN_ONLY, *hashes])).replace(ALONE, "frame-ancestors 'self'")
