"""The service as it is where people sign in."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text

from reticula.service.people import sessions
from reticula.service.people.passwords import hashed
from reticula.store import people
from reticula.store.database import Database

PASSWORD = "corals like calm water"
HASH = hashed(PASSWORD)
SECURE = {"base_url": "https://localhost"}


class Visitor:
    """A browser: keeps its cookie, and sends the token of its sign-in with what changes something."""

    def __init__(self, client: FlaskClient) -> None:
        self.client = client
        self.csrf = ""

    def ask(self, method: str, path: str, body: Any = None, **more: Any) -> Any:
        headers = {"X-CSRF-Token": self.csrf, **more.pop("headers", {})}
        return self.client.open(path, method=method, json=body, headers=headers, **SECURE, **more)

    def sign_in(self, name: str, password: str = PASSWORD) -> Any:
        answer = self.ask("POST", "/api/session", {"name": name, "password": password})
        self.csrf = answer.json.get("csrf_token", "")
        return answer

    def follow(self, link: str) -> Any:
        answer = self.ask("POST", "/api/session/link", {"link": link})
        self.csrf = answer.json.get("csrf_token", "")
        return answer


@pytest.fixture
def visit(guarded: Any, database: Database) -> Callable[..., Visitor]:
    """Return what lets somebody in: nobody, a person by name, or by a share link; there are no projects yet."""
    with database.engine.begin() as connection:
        for table in ("settings", "projects", "users"):
            connection.execute(text(f"DELETE FROM {table}"))
    sessions.tries.__init__()  # type: ignore[misc]
    with database.session() as session:
        for name in ("mara", "ines", "tomas", "yuna"):
            people.add_user(session, name, HASH)

    def come(name: str = "", link: str = "") -> Visitor:
        made = Visitor(guarded.test_client())
        if name:
            assert made.sign_in(name).status_code == 200
        if link:
            assert made.follow(link).status_code == 200
        return made

    return come
