"""Files by the hash of their content, in a folder that all workers reach: how meshes and graphs travel.

The folder is whatever fsspec opens: ``file:///mnt/shared``, ``s3://bucket/folder``, ``memory://`` in tests.
"""

from __future__ import annotations

import errno
import os
import re
import shutil
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any, TypeVar
from uuid import uuid4

import fsspec
from fsspec.implementations.local import LocalFileSystem

from reticula.core.errors import ReticulaError
from reticula.many.digests import digest_of_bytes, digest_of_file

__all__ = ["Contents", "ContentsError"]

Given = TypeVar("Given")
PATIENCE = 60.0
"""Seconds for which a folder that does not answer is asked again."""
FIRST_PAUSE, LONGEST_PAUSE = 0.05, 5.0
NAME = re.compile(r"[0-9a-f]{32}(-[0-9a-f]{32})?(\.[A-Za-z0-9]{1,12})?\Z")


class ContentsError(ReticulaError):
    """The folder of contents cannot be reached, or does not have what it should."""

    code = "contents"


class Contents:
    """What is kept under ``url``. ``beside`` is a folder of this machine where each content is fetched to once."""

    def __init__(self, url: str, beside: Path, *, patience: float = PATIENCE) -> None:
        self.url, self.beside, self.patience = url, beside, patience
        try:
            self.files, self.root = fsspec.url_to_fs(url)
        except (ImportError, ValueError) as error:
            raise ContentsError(f"the store '{url}' cannot be opened: {error}") from None
        beside.mkdir(parents=True, exist_ok=True)

    def put(self, data: bytes, ending: str = "") -> str:
        """Keep some bytes and return their name; what is there already is not sent again."""
        name = digest_of_bytes(data) + ending.lower()
        self._patiently(lambda: self._sent(name, data), f"'{name}' could not be kept in {self.url}")
        return name

    def put_file(self, path: str | Path) -> str:
        """Keep a file under its content's name, with its ending."""
        return self.put(Path(path).read_bytes(), Path(path).suffix)

    def give(self, path: Path) -> tuple[str, str]:
        """Hand over a file that nobody else needs; on one disk it is only renamed.

        Returns the name of its content, and the name under which it can be taken, once: others may hand over the same
        content.
        """
        digest, ending = digest_of_file(path), path.suffix.lower()
        place = f"{digest}-{uuid4().hex}{ending}"
        trouble = f"'{place}' could not be kept in {self.url}"
        if isinstance(self.files, LocalFileSystem):
            self._patiently(lambda: self._moved(path, Path(self._at(place))), trouble)
        else:
            data = path.read_bytes()
            self._patiently(lambda: self._sent(place, data), trouble)
            path.unlink()
        return digest + ending, place

    def take(self, name: str, path: Path) -> None:
        """Write what was handed over to a file, whole or not at all, and keep it no longer; raise as ``read`` does."""
        path.parent.mkdir(parents=True, exist_ok=True)
        if isinstance(self.files, LocalFileSystem):
            self._patiently(lambda: self._moved(Path(self._at(name)), path), f"'{name}' cannot be had from {self.url}")
            return
        part = path.with_name(f".{path.name}.part")
        try:
            part.write_bytes(self.read(name))
            os.replace(part, path)
        finally:
            part.unlink(missing_ok=True)
        self.remove(name)

    @staticmethod
    def _moved(path: Path, to: Path) -> None:
        to.parent.mkdir(parents=True, exist_ok=True)
        try:
            os.replace(path, to)
        except OSError as error:
            if error.errno != errno.EXDEV:
                raise
            part = to.with_name(f".{to.name}.part")  # another disk: copied beside it first
            shutil.copyfile(path, part)
            os.replace(part, to)
            path.unlink()

    def read(self, name: str) -> bytes:
        """Return the bytes of a name, checked by their hash; raise ContentsError if they cannot be had."""
        if not NAME.match(name):
            raise ContentsError(f"'{name}' is not the name of a content")

        def fetched() -> bytes:
            data = bytes(self.files.cat_file(self._at(name)))
            if digest_of_bytes(data) != name[:32]:
                raise OSError("it is not whole")
            return data

        return self._patiently(fetched, f"'{name}' cannot be had from {self.url}")

    def local(self, name: str) -> Path:
        """Return a file of this machine with the content, fetched if it is not here yet."""
        path = self.beside / name
        if not path.is_file():
            part = path.with_name(f"{uuid4().hex}.part")
            part.write_bytes(self.read(name))
            os.replace(part, path)
        return path

    def remove(self, name: str) -> None:
        """Give up a content; nothing happens if it is gone."""
        with suppress(OSError):
            self.files.rm_file(self._at(name))

    def _at(self, name: str) -> str:
        return f"{self.root.rstrip('/')}/{name}"

    def _sent(self, name: str, data: bytes) -> None:
        """Write under a name of its own first, so that nobody ever reads a half."""
        if self.files.exists(self._at(name)):
            return
        self.files.makedirs(self.root, exist_ok=True)
        part = self._at(f"{uuid4().hex}.part")
        self.files.pipe_file(part, data)
        self.files.mv(part, self._at(name))

    def _patiently(self, work: Callable[[], Given], trouble: str) -> Given:
        """Try again with growing pauses: a store may be away for a moment."""
        end, pause = time.monotonic() + self.patience, FIRST_PAUSE
        while True:
            try:
                return work()
            except Exception as error:  # stores raise what their libraries do
                if time.monotonic() + pause > end:
                    raise ContentsError(f"{trouble}: {_plain(error)}") from None
            time.sleep(pause)
            pause = min(2 * pause, LONGEST_PAUSE)


def _plain(error: Any) -> str:
    return f"{type(error).__name__}: {str(error)[:300]}"
