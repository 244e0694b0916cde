"""Settings of the service from the environment, and what they are without it."""

from pathlib import Path

import pytest

from reticula.service.config import MEGABYTE, Config


def test_defaults(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("RETICULA_DATABASE", "mysql://x")
    for name in ("VAR", "WEB", "HOST", "HOSTS", "PORT", "UPLOAD_MB", "WORKERS", "DEPOT", "JOB_SECONDS", "JOB_MB"):
        monkeypatch.delenv(f"RETICULA_{name}", raising=False)
    made = Config.from_environment()
    assert (made.host, made.port, made.workers, made.depot) == ("127.0.0.1", 8765, 2, "")
    assert made.hosts == ("127.0.0.1", "localhost", "[::1]")
    assert made.upload_bytes == 256 * MEGABYTE
    assert made.limits.seconds == 120


def test_every_variable_is_read(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    given = {
        "DATABASE": "mysql://x",
        "VAR": str(tmp_path),
        "PORT": "9000",
        "HOSTS": "reef.local,studio.local",
        "UPLOAD_MB": "0.5",
        "WORKERS": "4",
        "DEPOT": "http://depot",
        "JOB_SECONDS": "7.5",
        "JOB_MB": "100",
        "CACHE_MB": "50",
        "CLUSTER": "tcp://10.0.0.1:8786",
        "STORE": "file:///mnt/shared",
        "OVERFLOW": "cluster",
    }
    for name, value in given.items():
        monkeypatch.setenv(f"RETICULA_{name}", value)
    made = Config.from_environment()
    assert (made.var, made.port, made.workers, made.depot) == (tmp_path, 9000, 4, "http://depot")
    assert made.hosts[-2:] == ("reef.local", "studio.local")
    assert made.upload_bytes == MEGABYTE // 2
    assert made.limits.seconds == 7.5
    assert (made.limits.memory_bytes, made.limits.cache_bytes) == (100 * MEGABYTE, 50 * MEGABYTE)
    assert (made.cluster, made.store, made.overflow) == ("tcp://10.0.0.1:8786", "file:///mnt/shared", True)


def test_without_a_database_it_does_not_start(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("RETICULA_DATABASE", raising=False)
    with pytest.raises(KeyError, match="RETICULA_DATABASE"):
        Config.from_environment()
