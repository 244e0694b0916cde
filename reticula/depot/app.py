"""The depot's application: a folder of packages, listed, taken in and handed out."""

from __future__ import annotations

import hashlib
import hmac
import threading
from pathlib import Path
from urllib.parse import urlsplit

from flask import Flask, Response, jsonify, request, send_file

from reticula.core.errors import ReticulaError
from reticula.core.graph.structure.library import is_published
from reticula.core.packages import read_package

__all__ = ["MOST_BYTES", "create_depot"]

MOST_BYTES = 512 * 1024**2
HOSTS = ("127.0.0.1", "localhost", "[::1]")


def install_guard(app: Flask) -> None:
    """Refuse what a hostile page in a browser of this machine could send: another name, or another site."""

    @app.before_request
    def guard() -> tuple[Response, int] | None:
        host = request.host.rsplit(":", 1)[0] if not request.host.endswith("]") else request.host
        if host not in HOSTS:
            return jsonify({"message": f"the depot does not answer to the name '{host}'"}), 403
        origin = request.headers.get("Origin")
        if origin and urlsplit(origin).netloc != request.host:
            return jsonify({"message": "requests from other sites are refused"}), 403
        return None


def create_depot(folder: Path, token: str = "") -> Flask:
    """Return the depot over a folder. It takes in what is signed, from who knows the token; without one, nothing."""
    folder.mkdir(parents=True, exist_ok=True)
    app = Flask("reticula.depot", static_folder=None)
    app.config["MAX_CONTENT_LENGTH"] = MOST_BYTES
    install_guard(app)
    known: dict[str, dict[str, object]] = {}
    lock = threading.Lock()

    def path_of(operator: str) -> Path:
        return folder / f"{operator.replace('@', '-')}.zip"

    def entry_of(path: Path) -> dict[str, object] | None:
        data = path.read_bytes()
        digest = hashlib.sha256(data).hexdigest()
        if digest not in known:
            try:
                package = read_package(data)
            except ReticulaError:
                return None
            main = package.definitions[package.main]
            known[digest] = {
                "operator": package.main,
                "title": main.get("title") or main["name"],
                "summary": main.get("summary", ""),
                "size": len(data),
                "sha256": digest,
                "publisher": package.signature.publisher if package.signature else "",
                "fingerprint": package.signature.fingerprint if package.signature else "",
            }
        return known[digest]

    @app.get("/packages")
    def list_packages() -> Response:
        """List all whole packages."""
        with lock:
            found = [entry for entry in map(entry_of, sorted(folder.glob("*.zip"))) if entry is not None]
        return jsonify({"packages": found})

    @app.get("/packages/<operator>")
    def read(operator: str) -> Response | tuple[Response, int]:
        """Hand out a package."""
        if not is_published(operator) or not path_of(operator).is_file():
            return jsonify({"message": f"the depot has no '{operator}'"}), 404
        return send_file(path_of(operator), mimetype="application/zip")

    @app.put("/packages/<operator>")
    def write(operator: str) -> tuple[Response, int]:
        """Take a package in, once: a release never changes."""
        secret = request.headers.get("Authorization", "").partition(" ")[2]
        if not token or not hmac.compare_digest(secret.encode(), token.encode()):
            return jsonify({"message": "the depot takes packages only with its token"}), 401
        data = request.get_data()
        try:
            package = read_package(data)
        except ReticulaError as error:
            return jsonify({"message": str(error)}), 422
        if package.main != operator:
            return jsonify({"message": f"the package is '{package.main}', not '{operator}'"}), 422
        if package.signature is None:
            return jsonify({"message": "the package is not signed; sign it, so that others see whose it is"}), 422
        with lock:
            path = path_of(operator)
            name = operator.partition("@")[0]
            others = [entry for one in sorted(folder.glob(f"{name}-*.zip")) if (entry := entry_of(one))]
            owners = {one["fingerprint"]: one["publisher"] for one in others if one["operator"] != operator}
            if owners and package.signature.fingerprint not in owners:
                whose = ", ".join(f"{publisher} ({key})" for key, publisher in owners.items())
                return jsonify({"message": f"'{name}' is published by {whose}, and this is signed by another key"}), 409
            if path.exists() and path.read_bytes() != data:
                return jsonify({"message": f"the depot has another '{operator}' already; publish a new release"}), 409
            part = path.with_suffix(".part")
            part.write_bytes(data)
            part.replace(path)
        return jsonify({"operator": operator}), 201

    return app
