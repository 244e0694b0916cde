"""Who may ask, and what the browser may load: Host and Origin checks and security headers."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import Flask, Response, request

from reticula.service.config import Config
from reticula.service.errors import refuse

__all__ = ["POLICY", "install_security", "may_open"]

POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "font-src 'self'",
        "connect-src 'self'",
        "worker-src 'self' blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
"""Styles may be set inline because the form and board components position their parts that way; scripts may not."""


def may_open(config: Config, headers: dict[str, str]) -> bool:
    """Return whether a page with these headers may open its line."""
    return _trouble(config, headers.get("host", ""), headers.get("origin")) is None


def _trouble(config: Config, named: str, origin: str | None) -> tuple[str, str] | None:
    host = named if named.endswith("]") else named.rsplit(":", 1)[0]
    if host not in config.hosts:
        return "host", f"This service does not answer to the name '{host}'."
    if origin and urlsplit(origin).netloc != named:
        return "origin", "Requests from other sites are refused."
    return None


def install_security(app: Flask, config: Config) -> None:
    """Refuse requests addressed to or coming from elsewhere, which a hostile page in the same browser could send."""

    @app.before_request
    def check_origin() -> Response | None:
        trouble = _trouble(config, request.host, request.headers.get("Origin"))
        return refuse(403, *trouble) if trouble else None

    @app.after_request
    def add_headers(response: Response) -> Response:
        response.headers.setdefault("Content-Security-Policy", POLICY)
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "no-referrer"
        response.headers["Cross-Origin-Resource-Policy"] = "same-origin"
        response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
        return response
