"""The documentation under /docs: built files, and nothing that runs but what is in them."""

from __future__ import annotations

import base64
import hashlib
import re
from pathlib import Path

import pytest
from flask import Flask

from reticula.service.config import Config
from reticula.service.security import POLICY, install_security
from reticula.service.shipped.documentation import install_documentation


@pytest.fixture
def site(tmp_path: Path) -> Path:
    folder = tmp_path / "site"
    folder.mkdir()
    (folder / "index.html").write_text('<p>Reef</p><script>var a = "é";</script><script src="x.js"></script>')
    (folder / "x.js").write_text("1")
    (tmp_path / "secret").write_text("s")
    return folder


@pytest.fixture
def config(tmp_path: Path) -> Config:
    return Config("", tmp_path, tmp_path)


def app_of(folder: Path, config: Config) -> Flask:
    app = Flask("reticula", static_folder=None)
    install_security(app, config)
    install_documentation(app, folder)
    return app


def test_pages_come_with_the_hashes_of_their_scripts(site: Path, config: Config) -> None:
    client = app_of(site, config).test_client()
    assert client.get("/docs").headers["Location"] == "/docs/index.html"
    page = client.get("/docs/index.html")
    wanted = base64.b64encode(hashlib.sha256('var a = "é";'.encode()).digest()).decode()
    policy = page.headers["Content-Security-Policy"]
    assert re.findall(r"sha256-([^']+)", policy) == [wanted]
    assert "unsafe-eval" not in policy
    assert client.get("/docs/x.js").headers["Content-Security-Policy"] == POLICY


@pytest.mark.parametrize("name", ["nothing.html", "../secret", "..%2fsecret", "%00"])
def test_only_the_site_is_served(site: Path, config: Config, name: str) -> None:
    assert app_of(site, config).test_client().get(f"/docs/{name}").status_code in (404, 308)


def test_what_is_not_built_is_said(tmp_path: Path, config: Config) -> None:
    answer = app_of(tmp_path / "none", config).test_client().get("/docs/index.html")
    assert answer.status_code == 503
    assert "make docs" in answer.get_data(as_text=True)
