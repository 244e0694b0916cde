"""Uploaded shapes: names in the database, contents in a folder, equal ones once."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from sqlalchemy.orm import Session

from reticula.store import assets, projects
from reticula.store.database import Database
from reticula.store.errors import NameTaken, NotFound


def test_equal_contents_are_kept_once_and_swept_when_nothing_uses_them(session: Session, tmp_path: Path) -> None:
    files, project = assets.AssetFiles(tmp_path / "files"), projects.create(session, "Reef").id
    digest, path = files.keep(b"solid", "a.STL")
    assert files.keep(b"solid", "b.stl") == (digest, path)
    assert [one.name for one in files.folder.iterdir()] == [f"{digest}.stl"]
    first = assets.add(session, project, "a", "a.STL", digest, 5, {})
    second = assets.add(session, project, "b", "b.stl", digest, 5, {})
    assets.delete(session, first.id)
    assert files.sweep(session, 0.0) == 0
    assets.delete(session, second.id)
    assert files.sweep(session) == 0, "what came in a moment ago may be on its way into the database"
    assert path.exists()
    assert files.sweep(session, 0.0) == 1
    assert not path.exists()


def test_the_same_content_comes_in_many_times_at_once_while_it_is_swept(database: Database, tmp_path: Path) -> None:
    files = assets.AssetFiles(tmp_path / "files")
    data = bytes(range(256)) * 400

    def turn(number: int) -> tuple[str, Path] | None:
        if number % 5:
            return files.keep(data, "a.ply")
        with database.session() as own:
            files.sweep(own, 0.0)
        return None

    with ThreadPoolExecutor(8) as pool:
        made = list(pool.map(turn, range(80)))
    digest, path = files.keep(data, "a.ply")
    assert {one for one in made if one} == {(digest, path)}
    assert path.read_bytes() == data
    assert [one.name for one in files.folder.iterdir()] == [path.name]


@pytest.mark.parametrize(
    ("given", "name"),
    [
        ("reef.ply", "reef.ply"),
        ("山.obj", "山.obj"),
        ("../../etc/passwd.stl", "passwd.stl"),
        ("C:\\scans\\a b.OBJ", "a b.OBJ"),
        (".ply", "shape.ply"),
        ("\x00\n?.ply", "shape.ply"),
        ("x" * 400 + ".ply", "x" * 100 + ".ply"),
        ("", "shape"),
    ],
)
def test_file_names_are_made_safe(given: str, name: str) -> None:
    assert assets.safe_file_name(given) == name


def test_names_are_made_from_file_names_and_are_unlike(session: Session) -> None:
    project = projects.create(session, "Reef").id
    assert assets.free_name(session, project, "Old reef (2).ply") == "Old_reef_2"
    assets.add(session, project, "Old_reef_2", "Old reef (2).ply", "d", 1, {})
    assert assets.free_name(session, project, "Old reef (2).ply") == "Old_reef_2_2"
    assert assets.free_name(session, project, "??.obj") == "shape"
    with pytest.raises(NameTaken, match="'Old_reef_2' in this project already"):
        assets.add(session, project, "Old_reef_2", "x.ply", "d", 1, {})
    assert set(assets.by_name(session, project)) == {"Old_reef_2", "Old reef (2).ply"}


def test_what_is_not_there_is_said(session: Session) -> None:
    with pytest.raises(NotFound, match="There is no shape"):
        assets.get(session, "nothing")
