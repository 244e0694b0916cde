"""The private database: its secrets are kept and hidden, and what it needs is said. Starting it is tested with all."""

import stat
from pathlib import Path

import pytest

from reticula.launch import mariadb
from reticula.launch.mariadb import PrivateMariaDB, install_hint


def test_secrets_are_made_once_and_for_the_owner_alone(tmp_path: Path) -> None:
    first = PrivateMariaDB(tmp_path / "db", first_port=40123)
    again = PrivateMariaDB(tmp_path / "db")
    assert again.access == first.access
    assert again.port == 40123
    assert stat.S_IMODE((tmp_path / "db" / "access.json").stat().st_mode) == 0o600
    assert stat.S_IMODE((tmp_path / "db").stat().st_mode) == 0o700
    assert PrivateMariaDB(tmp_path / "other").access["password"] != first.access["password"]


def test_it_listens_on_loopback_under_a_socket_of_its_own(tmp_path: Path) -> None:
    a, b = PrivateMariaDB(tmp_path / "a"), PrivateMariaDB(tmp_path / "b")
    assert a.socket != b.socket
    assert len(str(a.socket)) < 100, "longer paths of sockets are refused by the system"
    assert f"@127.0.0.1:{a.port}/reticula" in a.url


def test_what_is_missing_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    assert install_hint() is None
    monkeypatch.setattr(mariadb, "_program", lambda name: None)
    assert "mariadb-server" in str(install_hint())


def test_a_strange_process_id_is_left_alone(tmp_path: Path) -> None:
    database = PrivateMariaDB(tmp_path / "db")
    for text in ("", "not a number", "1"):
        database.pid_file.write_text(text)
        database._end_orphan()
    assert Path("/proc/1").exists()
