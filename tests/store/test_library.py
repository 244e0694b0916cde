"""Published operators in the database."""

from typing import Any

import pytest
from sqlalchemy.orm import Session

from reticula.store import library
from reticula.store.errors import NameTaken, NotFound


def definition(name: str, release: str, *uses: str) -> dict[str, Any]:
    nodes = {f"node_{i}": {"operator": one} for i, one in enumerate(uses)}
    return {"name": name, "release": release, "graph": {"nodes": nodes}}


def test_a_release_is_added_once(session: Session) -> None:
    library.add(session, definition("tile", "1.0.0"), "", "here")
    library.add(session, definition("tile", "1.1.0"), "", "here")
    with pytest.raises(NameTaken, match=r"'tile@1\.0\.0' is published already"):
        library.add(session, definition("tile", "1.0.0"), "", "here")
    assert {"tile@1.0.0", "tile@1.1.0"} <= set(library.keys(session))
    assert library.library_of(session).releases("tile") == ["1.0.0", "1.1.0"]


def test_all_that_an_operator_needs_comes_along(session: Session) -> None:
    library.add(session, definition("rib", "1.0.0"), "", "")
    library.add(session, definition("arch", "2.0.0", "rib@1.0.0", "box"), "", "")
    library.add(session, definition("reef", "1.0.0", "arch@2.0.0", "lost@1.0.0"), "", "")
    assert set(library.closure(session, ["reef@1.0.0"])) == {"reef@1.0.0", "arch@2.0.0", "rib@1.0.0"}


def test_shapes_are_kept_by_content(session: Session) -> None:
    for _ in range(2):
        library.add_shape(session, "shape_1", "a.ply", "digest")
    assert set(library.shapes_of(session, ["shape_1", "none"])) == {"shape_1"}


def test_what_is_not_there_is_said(session: Session) -> None:
    with pytest.raises(NotFound, match=r"no operator 'nothing@1\.0\.0'"):
        library.get(session, "nothing@1.0.0")
