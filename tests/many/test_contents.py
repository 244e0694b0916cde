"""Contents are kept once, read whole or not at all, and a store that is away for a moment is waited for."""

from __future__ import annotations

import errno
import os
from pathlib import Path
from uuid import uuid4

import pytest

from reticula.many.contents import Contents, ContentsError
from reticula.many.digests import digest_of_bytes, digest_of_file


@pytest.fixture(params=["memory", "folder"])
def contents(request: pytest.FixtureRequest, tmp_path: Path) -> Contents:
    url = f"memory://{uuid4().hex}" if request.param == "memory" else (tmp_path / "shared").as_uri()
    return Contents(url, tmp_path / "here", patience=0.5)


def test_a_file_comes_back_under_its_content(contents: Contents, tmp_path: Path) -> None:
    file = tmp_path / "Reef.PLY"
    file.write_bytes(b"ply and so on")
    name = contents.put_file(file)
    assert name == f"{digest_of_bytes(file.read_bytes())}.ply" == f"{digest_of_file(file)}.ply"
    assert contents.put(b"ply and so on", ".ply") == name, "the same content is the same file"
    assert contents.local(name).read_bytes() == b"ply and so on"
    contents.remove(name)
    contents.remove(name)
    assert contents.local(name).read_bytes() == b"ply and so on", "what was fetched stays here"
    assert not [one for one in contents.files.ls(contents.root, detail=False) if one.endswith(".part")]


def test_what_is_damaged_or_gone_is_never_handed_out(contents: Contents) -> None:
    name = contents.put(b"all of it")
    contents.files.pipe_file(f"{contents.root}/{name}", b"all of")
    with pytest.raises(ContentsError, match="it is not whole"):
        contents.read(name)
    with pytest.raises(ContentsError, match="FileNotFoundError"):
        contents.read(digest_of_bytes(b"never kept"))
    with pytest.raises(ContentsError, match="is not the name of a content"):
        contents.read("../secrets")


def test_a_store_that_is_away_for_a_moment_is_asked_again(contents: Contents, monkeypatch: pytest.MonkeyPatch) -> None:
    name = contents.put(b"worth the wait")
    fetch, tries = contents.files.cat_file, []

    def flaky(path: str) -> bytes:
        tries.append(path)
        if len(tries) < 3:
            raise ConnectionError("the network is down")
        found: bytes = fetch(path)
        return found

    monkeypatch.setattr(contents.files, "cat_file", flaky)
    assert contents.read(name) == b"worth the wait"
    assert len(tries) == 3


def test_a_store_of_an_unknown_kind_is_said(tmp_path: Path) -> None:
    with pytest.raises(ContentsError, match="cannot be opened"):
        Contents("carrier-pigeon://loft", tmp_path)


def test_a_file_is_given_and_taken_without_a_copy_that_stays(contents: Contents, tmp_path: Path) -> None:
    file = tmp_path / "made.glb"
    file.write_bytes(b"a result")
    name, place = contents.give(file)
    assert name == digest_of_bytes(b"a result") + ".glb"
    assert not file.exists()
    contents.take(place, tmp_path / "out" / "reef.glb")
    assert (tmp_path / "out" / "reef.glb").read_bytes() == b"a result"
    assert not contents.files.exists(f"{contents.root}/{place}")
    with pytest.raises(ContentsError, match="cannot be had"):
        contents.take(place, tmp_path / "out" / "again.glb")
    assert [one.name for one in (tmp_path / "out").iterdir()] == ["reef.glb"]


def test_the_same_content_is_given_by_two_and_taken_by_two(contents: Contents, tmp_path: Path) -> None:
    given = []
    for number in range(2):
        file = tmp_path / f"{number}.ply"
        file.write_bytes(b"flat")
        given.append(contents.give(file))
    (name, first), (other, second) = given
    assert name == other
    for place, out in ((first, "a.ply"), (second, "b.ply")):
        contents.take(place, tmp_path / "out" / out)
        assert (tmp_path / "out" / out).read_bytes() == b"flat"


def test_a_file_goes_to_another_disk_whole(contents: Contents, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    rename = os.replace

    def across(path: Path, to: Path) -> None:
        if Path(path).parent != Path(to).parent:
            raise OSError(errno.EXDEV, "another device")
        rename(path, to)

    monkeypatch.setattr(os, "replace", across)
    name = contents.put(b"far", ".ply")
    contents.take(name, tmp_path / "far.ply")
    assert (tmp_path / "far.ply").read_bytes() == b"far"
    assert not contents.files.exists(f"{contents.root}/{name}")
