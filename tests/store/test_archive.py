"""An archive of everything, restored into an empty installation: the same rows, files and results."""

from __future__ import annotations

import json
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pymysql
import pytest
from sqlalchemy import text

from reticula.core import ops
from reticula.core.formats import write_bytes
from reticula.core.graph import Evaluator
from reticula.launch.mariadb import PrivateMariaDB
from reticula.store import assets, graphs, projects
from reticula.store.archive import ArchiveError, restore_archive, write_archive
from reticula.store.assets import AssetFiles
from reticula.store.database import Database
from reticula.workers.tasks import StoredShapes


@pytest.fixture
def fresh(server: PrivateMariaDB) -> Iterator[Any]:
    """Makes empty databases beside the one of the session."""
    made: list[str] = []
    root = pymysql.connect(unix_socket=str(server.socket), user="root", password=str(server.access["root"]))

    def make() -> Database:
        name = f"archive_{len(made)}"
        made.append(name)
        with root.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS {name}")
            cursor.execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin")
            cursor.execute(f"GRANT ALL ON {name}.* TO reticula@'127.0.0.1'")
        return Database(server.url.replace("/reticula?", f"/{name}?"))

    yield make
    with root.cursor() as cursor:
        for name in made:
            cursor.execute(f"DROP DATABASE {name}")
    root.close()


def filled(database: Database, folder: Path) -> None:
    """A project with a shape, and a graph with some edits, one taken back."""
    database.migrate()
    files = AssetFiles(folder / "assets")
    digest, _ = files.keep(write_bytes(ops.sphere(segments=9, rings=5), "a.ply"), "reef.ply")
    (folder / "depot").mkdir()
    (folder / "depot" / "growth-1.0.0.zip").write_bytes(b"a package")
    with database.session() as session:
        project = projects.create(session, "Reef – 山").id
        assets.add(session, project, "reef", "reef.ply", digest, 9, {"counts": {"points": 1}})
        document = {
            "format": "reticula graph",
            "version": 1,
            "dials": {},
            "looking_at": None,
            "nodes": {
                "scan": {"operator": "project_shape", "parameters": {"shape": "reef"}},
                "up": {"operator": "extrude", "inputs": {"geo": ["scan"]}},
            },
        }
        graph = graphs.create(session, project, "Tile", document).id
        for revision in range(3):
            patch = [{"op": "add", "path": "/nodes/up/parameters", "value": {"distance": 0.1 * (revision + 1)}}]
            graphs.edit(session, graph, revision, patch, f"edit {revision}", f"key {revision}")
        graphs.undo(session, graph, 3)


def contents(database: Database, folder: Path) -> dict[str, Any]:
    """Rows of all tables, and what the graphs make."""
    found: dict[str, Any] = {}
    with database.engine.connect() as connection:
        for table in ("projects", "graphs", "edits", "assets", "operators", "operator_shapes", "settings"):
            rows = [dict(row) for row in connection.execute(text(f"SELECT * FROM {table}")).mappings()]
            found[table] = sorted(rows, key=str)
    files = AssetFiles(folder / "assets")
    with database.session() as session:
        for project in projects.list_all(session):
            known = assets.by_name(session, project.id)
            shapes = {name: (str(files.path(a.digest, a.file_name)), a.digest) for name, a in known.items()}
            for graph in graphs.list_of(session, project.id):
                done = Evaluator().evaluate(json.loads(graph.document), shapes=StoredShapes(shapes, {}))
                found[graph.title] = {name: node.geo.digest for name, node in done.nodes.items() if node.geo}
    return found


def folders(folder: Path) -> dict[str, Path]:
    return {"assets": folder / "assets", "depot": folder / "depot"}


def test_all_comes_back_and_is_worked_on_further(fresh: Any, tmp_path: Path) -> None:
    here, there = tmp_path / "here", tmp_path / "there"
    here.mkdir()
    old, new = fresh(), fresh()
    filled(old, here)
    counts = write_archive(old, folders(here), tmp_path / "a.zip")
    assert counts == {
        "settings": 0, "projects": 1, "graphs": 1, "edits": 4, "moments": 0, "assets": 1, "operators": 0,
        "operator_shapes": 0, "users": 0, "memberships": 0, "share_links": 0, "sign_ins": 0, "api_tokens": 0,
        "sheets": 0, "variants": 0, "files": 2,
    }  # fmt: skip
    assert restore_archive(new, folders(there), tmp_path / "a.zip") == counts
    before = contents(old, here)
    assert contents(new, there) == before
    assert len(before["Tile"]) == 2
    assert (there / "depot" / "growth-1.0.0.zip").read_bytes() == b"a package"
    with new.session() as session:
        graph = graphs.list_of(session, projects.list_all(session)[0].id)[0]
        assert graphs.redo(session, graph.id, graph.revision).revision == 5
    with pytest.raises(ArchiveError, match="something here already"):
        restore_archive(new, folders(there), tmp_path / "a.zip")


def test_what_is_no_good_is_refused_in_words(fresh: Any, tmp_path: Path) -> None:
    here, database = tmp_path / "here", fresh()
    here.mkdir()
    filled(database, here)
    good = tmp_path / "a.zip"
    write_archive(database, folders(here), good)
    nowhere = folders(tmp_path / "there")
    broken = tmp_path / "b.zip"
    broken.write_bytes(good.read_bytes()[:-40])
    for path in (broken, tmp_path / "none.zip"):
        with pytest.raises(ArchiveError, match="no backup that can be read"):
            restore_archive(fresh(), nowhere, path)
    newer = tmp_path / "c.zip"
    with zipfile.ZipFile(good) as source, zipfile.ZipFile(newer, "w") as target:
        for name in source.namelist():
            data = source.read(name)
            if name == "about.json":
                data = json.dumps({**json.loads(data), "schema": "9999"}).encode()
            target.writestr(name, data)
        target.writestr("files/assets/../../escaped", b"no")
    with pytest.raises(ArchiveError, match="newer release"):
        restore_archive(fresh(), nowhere, newer)
    assert not list(tmp_path.glob("*.part"))


def test_older_tables_are_brought_up(fresh: Any, tmp_path: Path) -> None:
    old, new = fresh(), fresh()
    old.migrate("0003")
    with old.engine.begin() as connection:
        connection.execute(text("INSERT INTO projects VALUES ('p', 'Reef', '2026-01-02 03:04:05.000006')"))
        connection.execute(
            text(
                "INSERT INTO graphs (id, project_id, title, revision, document, created_at, updated_at) "
                "VALUES ('g', 'p', 'Tile', 1, '{}', '2026-01-02', '2026-01-02')"
            )
        )
        connection.execute(
            text(
                "INSERT INTO edits (graph_id, revision, kind, label, patch, inverse, created_at) "
                "VALUES ('g', 1, 'edit', 'one', '[]', '[]', '2026-01-02')"
            )
        )
    write_archive(old, {}, tmp_path / "a.zip")
    restore_archive(new, {}, tmp_path / "a.zip")
    with new.session() as session:
        assert graphs.get(session, "g").undo_revision == 1
