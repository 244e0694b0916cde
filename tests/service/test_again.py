"""A deadlock is nobody's fault: the request is done again, a few times; everything else is told at once."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient
from pymysql.err import OperationalError as Refused
from sqlalchemy.exc import OperationalError

from reticula.service import again
from reticula.service import assets as endpoint
from reticula.store import assets


def refusing(monkeypatch: pytest.MonkeyPatch, number: int, times: int) -> list[int]:
    """Let the database take back so many deletions of shapes before it does one."""
    delete, seen = assets.delete, []

    def odd(session: Any, asset: str) -> None:
        seen.append(number)
        if len(seen) <= times:
            raise OperationalError("DELETE", {}, Refused(number, "taken back"))
        delete(session, asset)

    monkeypatch.setattr(endpoint.assets, "delete", odd)
    monkeypatch.setattr(again, "PAUSE", 0.001)
    return seen


@pytest.fixture
def shape(client: FlaskClient, app: Any, project: str) -> str:
    from tests.service.test_uploads import upload

    return str(upload(app, project, "reef.ply").json["id"])


@pytest.mark.parametrize("number", [1213, 1205])
def test_a_deadlock_is_not_noticed(
    client: FlaskClient, shape: str, monkeypatch: pytest.MonkeyPatch, number: int
) -> None:
    seen = refusing(monkeypatch, number, 3)
    assert client.delete(f"/api/assets/{shape}").status_code == 204
    assert len(seen) == 4


def test_one_that_does_not_end_is_told(client: FlaskClient, shape: str, monkeypatch: pytest.MonkeyPatch) -> None:
    seen = refusing(monkeypatch, 1213, 100)
    assert client.delete(f"/api/assets/{shape}").status_code == 503
    assert len(seen) == again.CHANCES


def test_other_troubles_are_told_at_once(client: FlaskClient, shape: str, monkeypatch: pytest.MonkeyPatch) -> None:
    seen = refusing(monkeypatch, 2013, 1)
    assert client.delete(f"/api/assets/{shape}").status_code == 503
    assert len(seen) == 1
