"""What each role may do: every kind of request is tried by everybody."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from reticula.service.people.access import NEEDS
from reticula.store.database import Database
from tests.service.conftest import LAUNCH
from tests.service.people.conftest import Visitor

Come = Callable[..., Visitor]
DOCUMENT = {
    "format": "reticula graph",
    "version": 1,
    "looking_at": "a",
    "dials": {},
    "nodes": {"a": {"operator": "box"}},
}
EDIT = {"revision": 0, "patch": [{"op": "add", "path": "/title", "value": "Tile"}], "label": "title"}

REQUESTS: dict[str, tuple[str, str, Any, str]] = {
    "read a graph": ("GET", "/api/graphs/{graph}", None, "look"),
    "evaluate": ("POST", "/api/graphs/{graph}/evaluations", {"wait": 20}, "look"),
    "look at a result": ("POST", "/api/graphs/{graph}/looks", {"node": "a", "queries": [{"what": "summary"}]}, "look"),
    "download": ("GET", "/api/graphs/{graph}/export?node=a&format=ply", None, "look"),
    "list shapes": ("GET", "/api/projects/{project}/assets", None, "look"),
    "undo": ("POST", "/api/graphs/{graph}/undo", {"revision": 9}, "edit"),
    "edit": ("POST", "/api/graphs/{graph}/edits", EDIT, "edit"),
    "make a graph": ("POST", "/api/projects/{project}/graphs", {"title": "New"}, "edit"),
    "keep a result": ("POST", "/api/graphs/{graph}/freezes", {"node": "a", "name": "kept"}, "edit"),
    "list members": ("GET", "/api/projects/{project}/members", None, "manage"),
    "give a role": ("PUT", "/api/projects/{project}/members/yuna", {"role": "look"}, "manage"),
    "make a link": ("POST", "/api/projects/{project}/links", None, "manage"),
    "rename": ("PUT", "/api/projects/{project}", {"title": "Other"}, "manage"),
    "delete": ("DELETE", "/api/projects/{project}", None, "manage"),
}
ORDER = ("look", "edit", "manage")


@pytest.fixture
def place(visit: Come) -> dict[str, str]:
    """A project of mara, the administrator, with one graph and a share link."""
    mara = visit("mara")
    project = mara.ask("POST", "/api/projects", {"title": "Reef"}).json["id"]
    graph = mara.ask("POST", f"/api/projects/{project}/graphs", {"title": "Tile", "document": DOCUMENT}).json["id"]
    link = mara.ask("POST", f"/api/projects/{project}/links").json["secret"]
    return {"project": project, "graph": graph, "link": link}


@pytest.mark.parametrize("role", ["look", "edit", "manage", "link", "", "nobody", "administrator"])
def test_each_role_may_do_what_it_should(visit: Come, place: dict[str, str], role: str) -> None:
    mara = visit("mara")
    if role in ORDER:
        assert mara.ask("PUT", f"/api/projects/{place['project']}/members/ines", {"role": role}).status_code == 204
    who = {"link": lambda: visit(link=place["link"]), "nobody": visit, "administrator": lambda: mara}.get(
        role, lambda: visit("ines")
    )()
    able = {"link": "look", "administrator": "manage"}.get(role, role)
    for title, (method, path, body, need) in REQUESTS.items():
        answer = who.ask(method, path.format(**place), body)
        if role == "nobody":
            expected = answer.status_code == 401
        elif able not in ORDER:
            expected = answer.status_code == 404
        elif ORDER.index(able) < ORDER.index(need):
            expected = answer.status_code == 403 and answer.json["code"] == "role"
        else:
            expected = answer.status_code in (200, 201, 204, 409)
        assert expected, (role, title, answer.status_code, answer.get_data(as_text=True)[:200])


def test_every_request_says_what_it_needs(guarded: Any) -> None:
    handlers = {rule.endpoint for rule in guarded.url_map.iter_rules()}
    assert handlers <= set(NEEDS), "these are for administrators only, until they are listed"
    assert set(NEEDS) <= handlers


def test_one_sees_only_ones_own_projects(visit: Come, place: dict[str, str]) -> None:
    ines, link = visit("ines"), visit(link=place["link"])
    assert ines.ask("GET", "/api/projects").json["projects"] == []
    own = ines.ask("POST", "/api/projects", {"title": "Own"}).json
    assert own["role"] == "manage"
    assert [one["title"] for one in ines.ask("GET", "/api/projects").json["projects"]] == ["Own"]
    assert {one["title"] for one in visit("mara").ask("GET", "/api/projects").json["projects"]} == {"Reef", "Own"}
    assert link.ask("GET", "/api/projects").json["projects"] == [
        {"id": place["project"], "title": "Reef", "role": "look"}
    ]
    assert link.ask("POST", "/api/projects", {"title": "By link"}).status_code == 403


def test_an_evaluation_of_others_is_not_read(visit: Come, place: dict[str, str]) -> None:
    made = visit("mara").ask("POST", f"/api/graphs/{place['graph']}/evaluations", {"wait": 20}).json
    assert visit("ines").ask("GET", f"/api/evaluations/{made['ticket']}").status_code == 404
    assert visit(link=place["link"]).ask("GET", f"/api/evaluations/{made['ticket']}").status_code == 200


def test_what_changes_something_needs_the_token_of_the_sign_in(visit: Come, place: dict[str, str]) -> None:
    mara, other = visit("mara"), visit("mara")
    path = f"/api/projects/{place['project']}"
    for wrong in ("", "x", other.csrf):
        answer = mara.ask("PUT", path, {"title": "Hijacked"}, headers={"X-CSRF-Token": wrong})
        assert (answer.status_code, answer.json["code"]) == (403, "csrf")
    assert mara.ask("GET", path + "/graphs", headers={"X-CSRF-Token": ""}).status_code == 200
    assert mara.ask("PUT", path, {"title": "Mine"}).json["title"] == "Mine"


def test_the_launcher_comes_in_and_others_with_its_word_do_not(visit: Come) -> None:
    nobody = visit()
    for secret, code in ((LAUNCH, 200), (LAUNCH[:-1], 401), ("", 401)):
        assert nobody.ask("GET", "/api/operators", headers={"Authorization": f"Bearer {secret}"}).status_code == code


def test_health_and_the_page_need_nothing(visit: Come) -> None:
    assert visit().ask("GET", "/api/health").status_code == 200
    assert visit().ask("GET", "/").status_code == 200


def test_a_proxy_before_an_open_service_is_refused(client: Any, database: Database) -> None:
    answer = client.get("/api/projects", headers={"X-Forwarded-For": "203.0.113.9"})
    assert answer.status_code == 403
    assert "RETICULA_HOSTS" in answer.json["message"]
