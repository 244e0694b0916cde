"""Rooms that a stranger finds their way in: short files, and few of them beside each other."""

from __future__ import annotations

import re
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
MOST_LINES, MOST_FILES = 400, 24
GENERATED = {"web/src/api/schema.d.ts"}


def sources() -> list[Path]:
    """Hand-written code, tests left out."""
    paths = [path.relative_to(ROOT) for top in ("reticula", "web/src") for path in (ROOT / top).rglob("*")]
    code = [path for path in paths if path.suffix in {".py", ".ts", ".vue"} and str(path) not in GENERATED]
    return [path for path in code if not path.name.endswith(".test.ts")]


def test_no_file_is_longer_than_it_can_be_read() -> None:
    long = {str(path): len((ROOT / path).read_text().splitlines()) for path in sources()}
    assert {path: lines for path, lines in long.items() if lines > MOST_LINES} == {}


def test_what_the_type_checker_is_not_to_look_at_has_its_reason() -> None:
    bare = [
        f"{path}:{number}"
        for path in (ROOT / "reticula").rglob("*.py")
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if "type: ignore" in line and not re.search(r"type: ignore\[[a-z, -]+\]  # \w", line)
    ]
    assert bare == []


def test_no_folder_holds_more_than_can_be_overlooked() -> None:
    beside = Counter(path.parent for path in sources() if path.name != "__init__.py")
    assert {str(folder): count for folder, count in beside.items() if count > MOST_FILES} == {}
    assert len(beside) > 50, "the listing itself works"
