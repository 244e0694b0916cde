"""The depot's client: every way in which a depot can fail is said in words."""

import json
from collections.abc import Iterator
from typing import Any

import pytest

from reticula.service.sharing.depot_client import Depot, DepotDown
from tests.helpers import QuietHandler, any_port, serving

ENTRY = {"operator": "lift@1.0.0", "title": "Lift", "summary": "Moves up", "size": 5, "more": "dropped"}


class Answers(QuietHandler):
    """Answers what the test put down."""

    code, body = 200, b""

    def answer(self) -> None:
        self.rfile.read(int(self.headers.get("Content-Length", 0)))
        self.send_response(Answers.code)
        self.send_header("Content-Length", str(len(Answers.body)))
        self.end_headers()
        self.wfile.write(Answers.body)

    do_GET = do_PUT = answer  # noqa: N815


@pytest.fixture
def depot() -> Iterator[Depot]:
    with serving(Answers) as address:
        yield Depot(address)


def says(code: int, body: Any) -> None:
    Answers.code, Answers.body = code, body if isinstance(body, bytes) else json.dumps(body).encode()


def test_what_is_there_is_listed(depot: Depot) -> None:
    says(200, {"packages": [ENTRY]})
    told = {key: ENTRY[key] for key in ("operator", "title", "summary", "size")}
    assert depot.list() == [{**told, "publisher": "", "fingerprint": ""}]
    says(200, {"packages": [{**ENTRY, "publisher": "Reef", "fingerprint": "ab"}]})
    assert depot.list() == [{**told, "publisher": "Reef", "fingerprint": "ab"}]
    says(200, b"bytes")
    assert depot.fetch("lift@1.0.0") == b"bytes"


@pytest.mark.parametrize("body", [b"no json", {"other": []}, {"packages": [{"operator": "x"}]}, {"packages": 3}])
def test_an_answer_that_cannot_be_read(depot: Depot, body: Any) -> None:
    says(200, body)
    with pytest.raises(DepotDown, match="answered something that cannot be read"):
        depot.list()


@pytest.mark.parametrize("code", [409, 422])
def test_what_it_does_not_want_it_says_why(depot: Depot, code: int) -> None:
    says(code, {"message": "there is another one"})
    assert depot.publish("lift@1.0.0", b"data") == "there is another one"


def test_a_depot_that_fails(depot: Depot) -> None:
    says(500, b"?")
    with pytest.raises(DepotDown, match="The depot said no: error 500"):
        depot.publish("lift@1.0.0", b"data")


def test_a_depot_that_is_not_there() -> None:
    with pytest.raises(DepotDown, match=r"does not answer .* operators here go on working"):
        Depot(f"http://127.0.0.1:{any_port()}").list()
    with pytest.raises(DepotDown, match="No depot is set up"):
        Depot("").list()
