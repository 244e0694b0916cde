"""The log says what happened, in JSON, and nothing of what people wrote."""

from __future__ import annotations

import json
import logging
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.service.monitoring import logs
from reticula.service.monitoring.logs import JsonLines, described, start_log


@pytest.fixture
def lines(caplog: pytest.LogCaptureFixture) -> Any:
    caplog.set_level(logging.INFO)
    return lambda: [json.loads(JsonLines().format(record)) for record in caplog.records]


def test_a_request_is_a_line_without_its_query_and_body(client: FlaskClient, lines: Any) -> None:
    client.post("/api/projects?secret=hunter2", json={"title": "Confidential reef"})
    told = [line for line in lines() if line["logger"] == "reticula.requests"][-1]
    assert (told["method"], told["path"], told["status"], told["level"]) == ("POST", "/api/projects", 201, "info")
    assert 0 < told["milliseconds"] < 10_000
    assert "hunter2" not in str(lines())
    assert "Confidential" not in str(lines())


def test_an_error_tells_its_kind_and_place_and_quotes_nobody() -> None:
    def fail(text: str) -> None:
        raise ValueError(f"'{text}' is no number")

    with pytest.raises(ValueError, match="secret") as caught:
        fail("my secret formula")
    told = described(caught.value)
    assert told.startswith("ValueError at test_logs.py:")
    assert "secret" not in told
    assert "No space left" in described(OSError(28, "No space left on device"))


def test_a_database_error_is_told_without_its_parameters(client: FlaskClient, graph: Any, lines: Any) -> None:
    client.put("/api/settings", json={"x" * 500: "a private value"})
    assert "private" not in str(lines())


def test_files_rotate(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(logs, "MOST_BYTES", 2000)
    root = logging.getLogger()
    before, level = root.handlers[:], root.level
    try:
        start_log(tmp_path / "service.log")
        for number in range(200):
            logging.getLogger("test").warning("line %d", number)
        root.handlers[0].close()
    finally:
        root.handlers[:] = before
        root.setLevel(level)
    files = sorted(path.name for path in tmp_path.iterdir())
    assert files == ["service.log", *(f"service.log.{n}" for n in range(1, 6))]
    assert all(path.stat().st_size <= 2000 for path in tmp_path.iterdir())
    last = (tmp_path / "service.log").read_text().splitlines()[-1]
    assert json.loads(last)["message"] == "line 199"
