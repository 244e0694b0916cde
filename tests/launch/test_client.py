"""The small HTTP client beside a small server: what it sends, what it reads, what it raises."""

import json
from collections.abc import Iterator

import pytest

from reticula.launch.client import Client
from tests.helpers import QuietHandler, any_port, serving


class Echo(QuietHandler):
    """Answers with what it was asked."""

    def answer(self) -> None:
        body = self.rfile.read(int(self.headers.get("Content-Length", 0)))
        told = {"method": self.command, "kind": self.headers.get("Content-Type"), "body": body.decode("latin-1")}
        data = json.dumps(told).encode()
        self.send_response(404 if self.path == "/nothing" else 200)
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    do_GET = do_POST = do_PUT = answer  # noqa: N815


@pytest.fixture
def client() -> Iterator[Client]:
    with serving(Echo) as address:
        yield Client(address)


def test_what_is_sent(client: Client) -> None:
    assert client.get("/a")["method"] == "GET"
    posted = client.post("/a", {"x": [1, 2]})
    assert (posted["kind"], json.loads(posted["body"])) == ("application/json", {"x": [1, 2]})
    put = client.put("/a", b"\x00\xff")
    assert (put["method"], put["body"]) == ("PUT", "\x00\xff")


def test_a_file_is_sent_as_a_form(client: Client) -> None:
    sent = client.upload("/a", "tile.ply", b"ply")
    mark = sent["kind"].partition("boundary=")[2]
    assert sent["body"].startswith(f"--{mark}\r\n")
    assert 'filename="tile.ply"\r\n\r\nply\r\n' in sent["body"]
    assert sent["body"].endswith(f"--{mark}--\r\n")


def test_refusals_and_silence_are_errors(client: Client) -> None:
    with pytest.raises(OSError, match="404"):
        client.get("/nothing")
    with pytest.raises(OSError, match="refused"):
        Client(f"http://127.0.0.1:{any_port()}").get("/a")
