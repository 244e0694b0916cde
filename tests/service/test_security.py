"""Requests from elsewhere are refused, and every answer carries the headers that keep a page apart."""

import pytest
from flask.testing import FlaskClient

from reticula.service.security import POLICY


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "localhost.evil"])
def test_another_name_is_not_answered(client: FlaskClient, host: str) -> None:
    answer = client.get("/api/health", headers={"Host": host})
    assert answer.status_code == 403
    assert host in answer.json["message"]


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost:8765", "[::1]", "[::1]:8765"])
def test_this_machine_is_answered(client: FlaskClient, host: str) -> None:
    assert client.get("/api/settings", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    ("origin", "code"),
    [("http://localhost", 200), ("http://evil.example", 403), ("null", 403), ("https://localhost:1", 403)],
)
def test_another_site_cannot_ask_through_the_browser(client: FlaskClient, origin: str, code: int) -> None:
    answer = client.get("/api/settings", headers={"Host": "localhost", "Origin": origin})
    assert answer.status_code == code


@pytest.mark.parametrize("path", ["/api/settings", "/api/nothing", "/"])
def test_headers_are_on_every_answer(client: FlaskClient, path: str) -> None:
    headers = client.get(path).headers
    assert headers["Content-Security-Policy"] == POLICY
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert headers["Referrer-Policy"] == "no-referrer"
    assert "unsafe-eval" not in POLICY
