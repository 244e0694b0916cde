"""Uploads: the same content many times at once, odd names, and deleting meanwhile."""

import io
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.core import ops
from reticula.core.formats import write_bytes

DATA = write_bytes(ops.box(), "a.ply")


def upload(app: Any, project: str, name: str, data: bytes = DATA) -> Any:
    form = {"file": (io.BytesIO(data), name)}
    return app.test_client().post(f"/api/projects/{project}/assets", data=form, content_type="multipart/form-data")


def test_equal_uploads_at_once_and_deletions_lose_nothing(app: Any, client: FlaskClient, project: str) -> None:
    def turn(number: int) -> str | None:
        made = upload(app, project, "reef.ply")
        assert made.status_code == 201, made.json
        if number % 3 == 0:
            assert app.test_client().delete(f"/api/assets/{made.json['id']}").status_code == 204
            return None
        return str(made.json["id"])

    with ThreadPoolExecutor(8) as pool:
        kept = [one for one in pool.map(turn, range(24)) if one]
    listed = client.get(f"/api/projects/{project}/assets").json["assets"]
    assert sorted(one["id"] for one in listed) == sorted(kept)
    assert len({one["name"] for one in listed}) == len(kept)
    for one in kept:
        assert client.get(f"/api/assets/{one}/content").data == DATA


def test_deleting_twice_at_once_is_one_deletion(app: Any, project: str) -> None:
    made = upload(app, project, "reef.ply").json["id"]
    with ThreadPoolExecutor(6) as pool:
        codes = list(pool.map(lambda _: app.test_client().delete(f"/api/assets/{made}").status_code, range(6)))
    assert sorted(codes) == [204] + [404] * 5


@pytest.mark.parametrize(
    ("name", "shape"), [("山.ply", "山"), ("x" * 400 + ".ply", "x" * 80), ("../up.ply", "up"), ("a b?.PLY", "a_b")]
)
def test_odd_names_work(app: Any, project: str, name: str, shape: str) -> None:
    made = upload(app, project, name)
    assert made.status_code == 201
    assert made.json["name"] == shape


@pytest.mark.parametrize("path", ["/" + "x" * 3000, "/api/graphs/" + "y" * 3000, "/a%00b", "/assets/%00"])
def test_long_and_broken_paths_are_not_found(client: FlaskClient, path: str) -> None:
    assert client.get(path).status_code == 404
