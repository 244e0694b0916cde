"""Uploaded shapes: names in the database, contents in a folder, equal ones once."""

from pathlib import Path

import pytest
from sqlalchemy.orm import Session

from reticula.store import assets, projects
from reticula.store.errors import NameTaken, NotFound


def test_equal_contents_are_kept_once_and_until_nothing_uses_them(session: Session, tmp_path: Path) -> None:
    files, project = assets.AssetFiles(tmp_path / "files"), projects.create(session, "Reef").id
    digest, path = files.keep(b"solid", "a.STL")
    assert files.keep(b"solid", "b.stl") == (digest, path)
    assert [one.name for one in files.folder.iterdir()] == [f"{digest}.stl"]
    first = assets.add(session, project, "a", "a.STL", digest, 5, {})
    second = assets.add(session, project, "b", "b.stl", digest, 5, {})
    assets.delete(session, first.id)
    files.drop_unused(session, digest, "a.STL")
    assert path.exists()
    assets.delete(session, second.id)
    files.drop_unused(session, digest, "b.stl")
    assert not path.exists()


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
