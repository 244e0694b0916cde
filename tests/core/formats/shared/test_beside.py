"""Files beside a file are limited in size, as the file itself is."""

from pathlib import Path

import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.shared import beside
from reticula.core.formats.shared.beside import FilesBeside


def test_too_large_a_file_is_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "a.bin").write_bytes(b"12345")
    monkeypatch.setattr(beside, "MOST_BYTES", 4)
    with pytest.raises(FormatError, match=r"'a\.bin' has 5 bytes; 4 is the most"):
        FilesBeside(tmp_path)["a.bin"]


def test_what_is_missing_is_a_key_error(tmp_path: Path) -> None:
    with pytest.raises(KeyError):
        FilesBeside(tmp_path)["a.bin"]
    assert len(FilesBeside(tmp_path)) == 0
