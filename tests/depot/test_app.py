"""The depot over a folder: packages go in once, whole, and come out as they were."""

from pathlib import Path

import pytest
from flask.testing import FlaskClient

from reticula.core.packages import own_key, read_package, sign_package, write_package
from reticula.depot.app import create_depot

ROOT = Path(__file__).resolve().parents[2]


TOKEN = "the depot's token"
UNSIGNED = (ROOT / "demo/packages/settlement_tile-1.0.0.zip").read_bytes()


@pytest.fixture
def depot(tmp_path: Path) -> FlaskClient:
    made = create_depot(tmp_path / "depot", TOKEN).test_client()
    made.environ_base["HTTP_AUTHORIZATION"] = f"Bearer {TOKEN}"
    return made


@pytest.fixture
def package(tmp_path: Path) -> bytes:
    return sign_package(UNSIGNED, own_key(tmp_path / "reef.pem"), "Reef")


def test_what_is_put_in_is_listed_and_handed_out(depot: FlaskClient, package: bytes) -> None:
    assert depot.get("/packages").json == {"packages": []}
    assert depot.put("/packages/settlement_tile@1.0.0", data=package).status_code == 201
    (entry,) = depot.get("/packages").json["packages"]
    assert entry["operator"] == "settlement_tile@1.0.0"
    assert entry["size"] == len(package)
    assert entry["publisher"] == "Reef"
    assert len(entry["fingerprint"]) == 16
    assert depot.get("/packages/settlement_tile@1.0.0").data == package


def test_a_release_never_changes(depot: FlaskClient, package: bytes) -> None:
    depot.put("/packages/settlement_tile@1.0.0", data=package)
    assert depot.put("/packages/settlement_tile@1.0.0", data=package).status_code == 201, "the same again is fine"
    changed = depot.put("/packages/settlement_tile@1.0.0", data=package + b"\0")
    assert changed.status_code in (409, 422)
    assert depot.get("/packages/settlement_tile@1.0.0").data == package


def test_names_must_fit_and_packages_be_whole(depot: FlaskClient, package: bytes) -> None:
    other = depot.put("/packages/other@1.0.0", data=package)
    assert other.status_code == 422
    assert "settlement_tile@1.0.0" in other.json["message"]
    assert depot.put("/packages/settlement_tile@1.0.0", data=package[:-400]).status_code == 422
    assert depot.get("/packages").json == {"packages": []}


@pytest.mark.parametrize("name", ["nothing@1.0.0", "..%2Fsecret", "settlement_tile"])
def test_what_is_not_there_is_not_found(depot: FlaskClient, name: str) -> None:
    assert depot.get(f"/packages/{name}").status_code == 404


def test_a_damaged_file_in_the_folder_is_left_out(tmp_path: Path, package: bytes) -> None:
    folder = tmp_path / "depot"
    folder.mkdir()
    (folder / "broken-1.0.0.zip").write_bytes(b"PK")
    (folder / "settlement_tile-1.0.0.zip").write_bytes(package)
    listed = create_depot(folder).test_client().get("/packages").json["packages"]
    assert [entry["operator"] for entry in listed] == ["settlement_tile@1.0.0"]


@pytest.mark.parametrize(
    ("headers", "code"),
    [
        ({"Host": "127.0.0.1:9"}, 200),
        ({"Host": "evil.example"}, 403),
        ({"Host": "localhost:9", "Origin": "http://localhost:9"}, 200),
        ({"Host": "localhost:9", "Origin": "http://evil.example"}, 403),
        ({"Host": "localhost:9", "Origin": "null"}, 403),
    ],
)
def test_other_names_and_other_sites_are_refused(tmp_path: Path, headers: dict[str, str], code: int) -> None:
    client = create_depot(tmp_path).test_client()
    assert client.get("/packages", headers=headers).status_code == code
    if code == 403:
        assert client.put("/packages/a@1.0.0", data=b"x", headers=headers).status_code == 403


@pytest.mark.parametrize("secret", ["", "Bearer", "Bearer wrong", f"Bearer {TOKEN}x"])
def test_packages_go_in_with_the_token_alone(depot: FlaskClient, package: bytes, secret: str) -> None:
    refused = depot.put("/packages/settlement_tile@1.0.0", data=package, headers={"Authorization": secret})
    assert refused.status_code == 401
    assert depot.get("/packages", headers={"Authorization": ""}).json == {"packages": []}


def test_a_depot_without_a_token_takes_nothing(tmp_path: Path, package: bytes) -> None:
    closed = create_depot(tmp_path / "closed").test_client()
    answer = closed.put("/packages/settlement_tile@1.0.0", data=package, headers={"Authorization": "Bearer "})
    assert answer.status_code == 401


def test_what_nobody_signed_stays_out(depot: FlaskClient) -> None:
    refused = depot.put("/packages/settlement_tile@1.0.0", data=UNSIGNED)
    assert refused.status_code == 422
    assert "not signed" in refused.json["message"]


def test_a_name_belongs_to_who_published_it_first(depot: FlaskClient, package: bytes, tmp_path: Path) -> None:
    assert depot.put("/packages/settlement_tile@1.0.0", data=package).status_code == 201
    known = read_package(UNSIGNED)
    next_one = {**known.definitions["settlement_tile@1.0.0"], "release": "1.0.1"}
    later = write_package(
        "settlement_tile@1.0.1", {**known.definitions, "settlement_tile@1.0.1": next_one}, known.shapes, {}
    )
    foreign = sign_package(later, own_key(tmp_path / "other.pem"), "Reef")
    refused = depot.put("/packages/settlement_tile@1.0.1", data=foreign)
    assert refused.status_code == 409
    assert "signed by another key" in refused.json["message"]
    own = sign_package(later, own_key(tmp_path / "reef.pem"), "Reef")
    assert depot.put("/packages/settlement_tile@1.0.1", data=own).status_code == 201
