"""Taking in a package: what is added, what is kept, what comes beside."""

import pytest

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import Package
from reticula.core.packages.importing import merge_package
from tests.core.packages.studio import published


def test_into_an_empty_library_all_is_added_and_what_is_used_comes_first(package: Package) -> None:
    with using(library=MemoryLibrary()):
        added, kept = merge_package(package, {})
    assert [definition["name"] for definition in added] == ["lift", "outer"]
    assert kept == []


def test_what_is_there_already_is_kept(package: Package) -> None:
    library, _ = published()
    with using(library=library):
        added, kept = merge_package(package, {})
    assert ([definition["name"] for definition in added], kept) == (["outer"], ["lift@1.0.0"])


def test_a_collision_wants_a_choice(package: Package, colliding: MemoryLibrary) -> None:
    with using(library=colliding), pytest.raises(GraphError, match=r"another 'lift@1\.0\.0' here; say which to keep"):
        merge_package(package, {})


def test_beside_it_gets_another_name_and_what_uses_it_follows(package: Package, colliding: MemoryLibrary) -> None:
    with using(library=colliding):
        added, _ = merge_package(package, {"lift@1.0.0": "beside"})
    assert [definition["name"] for definition in added] == ["lift_2", "outer"]
    assert added[1]["graph"]["nodes"]["one"]["operator"] == "lift_2@1.0.0"


def test_kept_what_uses_it_uses_the_one_that_is_there(package: Package, colliding: MemoryLibrary) -> None:
    with using(library=colliding):
        added, kept = merge_package(package, {"lift@1.0.0": "keep"})
    assert kept == ["lift@1.0.0"]
    assert added[0]["graph"]["nodes"]["one"]["operator"] == "lift@1.0.0"
