"""Coming in and going out."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import text

from reticula.service.people import sessions
from reticula.store.database import Database
from tests.service.people.conftest import PASSWORD, SECURE, Visitor

Come = Callable[..., Visitor]


def test_the_cookie_is_kept_from_scripts_other_sites_and_plain_http(visit: Come) -> None:
    answer = visit().sign_in("ines")
    cookie = answer.headers["Set-Cookie"]
    assert cookie.startswith("__Host-reticula=")
    for word in ("Secure", "HttpOnly", "SameSite=Strict", "Path=/"):
        assert word in cookie
    assert "Domain" not in cookie
    assert PASSWORD not in answer.get_data(as_text=True)


def test_one_signs_in_and_out(visit: Come) -> None:
    ines = visit()
    before = ines.ask("GET", "/api/session").json
    assert (before["sign_in"], before["known"], before["accounts"]) == (True, False, True)
    ines.sign_in("ines")
    now = ines.ask("GET", "/api/session").json
    assert (now["known"], now["name"], now["administrator"]) == (True, "ines", False)
    assert ines.ask("DELETE", "/api/session").status_code == 204
    assert ines.ask("GET", "/api/projects").status_code == 401


@pytest.mark.parametrize(("name", "password"), [("ines", "wrong"), ("nobody", PASSWORD), ("", ""), ("ines", "\ud800")])
def test_a_wrong_name_and_a_wrong_password_are_told_alike(visit: Come, name: str, password: str) -> None:
    body = json.dumps({"name": name, "password": password})
    answer = visit().client.post("/api/session", data=body, content_type="application/json", **SECURE)
    assert answer.status_code in (401, 422)
    if answer.status_code == 401:
        assert answer.json["message"] == "This is not the name and password of an account."


def test_tries_are_limited_by_name_and_by_address(visit: Come) -> None:
    stranger = visit()
    codes = [stranger.sign_in("ines", f"guess {n}").status_code for n in range(7)]
    assert codes == [401] * 5 + [429] * 2
    answer = stranger.sign_in("ines")
    assert answer.status_code == 429, "the right password does not help either"
    assert 10 <= int(answer.headers["Retry-After"]) <= 15
    assert visit().sign_in("tomas").status_code == 200, "others come in"
    codes = [stranger.sign_in(f"guess {n}", "x").status_code for n in range(20)]
    assert codes[-1] == 429
    assert visit().sign_in("yuna").status_code == 429, "the address has to wait"


def test_pauses_grow(visit: Come, monkeypatch: pytest.MonkeyPatch) -> None:
    now = [1000.0]
    monkeypatch.setattr("reticula.service.people.tries.time.monotonic", lambda: now[0])
    pauses = []
    for _ in range(9):
        now[0] += sessions.tries.pause("ines", "there")
        pauses.append(sessions.tries.pause("ines", "there"))
        sessions.tries.failed("ines", "there")
    assert pauses == [0.0] * 9
    assert sessions.tries.pause("ines", "there") == 15.0 * 2**4
    now[0] += 4000.0
    assert sessions.tries.pause("ines", "there") == 0.0


def test_another_password_ends_all_sign_ins(visit: Come) -> None:
    here, there = visit("ines"), visit("ines")
    assert here.ask("PUT", "/api/session/password", {"old": "wrong", "new": "a longer one"}).status_code == 401
    assert here.ask("PUT", "/api/session/password", {"old": PASSWORD, "new": "short"}).status_code == 409
    assert here.ask("PUT", "/api/session/password", {"old": PASSWORD, "new": "a longer one"}).status_code == 204
    assert {one.ask("GET", "/api/projects").status_code for one in (here, there)} == {401}
    assert visit().sign_in("ines").status_code == 401
    assert visit().sign_in("ines", "a longer one").status_code == 200


def test_a_sign_in_ends_when_one_was_away_for_long(visit: Come, database: Database) -> None:
    ines = visit("ines")
    with database.engine.begin() as connection:
        connection.execute(text("UPDATE sign_ins SET seen_at = seen_at - INTERVAL 13 DAY"))
    assert ines.ask("GET", "/api/projects").status_code == 200
    with database.engine.begin() as connection:
        connection.execute(text("UPDATE sign_ins SET seen_at = seen_at - INTERVAL 15 DAY"))
    assert ines.ask("GET", "/api/projects").status_code == 401


def test_a_link_that_was_taken_back_shows_nothing(visit: Come) -> None:
    mara = visit("mara")
    project = mara.ask("POST", "/api/projects", {"title": "Reef"}).json["id"]
    made = mara.ask("POST", f"/api/projects/{project}/links").json
    guest = visit(link=made["secret"])
    assert guest.ask("GET", f"/api/projects/{project}/graphs").status_code == 200
    assert guest.ask("GET", "/api/session").json["link_project"] == project
    assert mara.ask("DELETE", f"/api/projects/{project}/links/{made['id']}").status_code == 204
    assert guest.ask("GET", f"/api/projects/{project}/graphs").status_code == 401
    assert visit().follow(made["secret"]).status_code == 404
    assert visit().follow("x" * 32).status_code == 404


def test_a_token_acts_for_its_person(visit: Come) -> None:
    ines = visit("ines")
    secret = ines.ask("POST", "/api/tokens", {"title": "laptop"}).json["secret"]
    assert ines.ask("POST", "/api/tokens", {"title": "laptop"}).status_code == 409
    program = visit()
    by: dict[str, Any] = {"headers": {"Authorization": f"Bearer {secret}"}}
    made = program.ask("POST", "/api/projects", {"title": "By a program"}, **by)
    assert made.status_code == 201
    assert [one["title"] for one in ines.ask("GET", "/api/projects").json["projects"]] == ["By a program"]
    listed = ines.ask("GET", "/api/tokens").json["tokens"]
    assert [one["title"] for one in listed] == ["laptop"]
    assert listed[0]["used_at"]
    assert secret not in str(listed)
    assert ines.ask("DELETE", f"/api/tokens/{listed[0]['id']}").status_code == 204
    assert program.ask("GET", "/api/projects", **by).status_code == 401


def test_secrets_are_kept_as_hashes(visit: Come, database: Database) -> None:
    mara = visit("mara")
    project = mara.ask("POST", "/api/projects", {"title": "Reef"}).json["id"]
    secrets = [
        mara.ask("POST", f"/api/projects/{project}/links").json["secret"],
        mara.ask("POST", "/api/tokens", {"title": "t"}).json["secret"],
        mara.client.get_cookie("__Host-reticula", domain="localhost").value,  # type: ignore[union-attr]
        PASSWORD,
    ]
    with database.engine.connect() as connection:
        kept = "".join(
            str(connection.execute(text(f"SELECT * FROM {table}")).fetchall())
            for table in ("users", "sign_ins", "share_links", "api_tokens")
        )
    assert not [secret for secret in secrets if secret in kept]
    assert "$argon2id$" in kept


def test_those_who_left_are_forgotten(visit: Come, database: Database) -> None:
    from reticula.store import people

    ines = visit("ines")
    with database.session() as session:
        people.remove_user(session, "ines")
    assert ines.ask("GET", "/api/projects").status_code == 401
    assert timedelta(days=1) < people.AWAY
