"""Taking in a package: what is added, what is kept, what comes beside."""

from copy import deepcopy
from dataclasses import replace

import pytest

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import Package, definition_key
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


def test_beside_works_any_number_of_times_and_adds_the_same_only_once(
    package: Package, colliding: MemoryLibrary
) -> None:
    known = dict(colliding.definitions)
    choices = {"lift@1.0.0": "beside", "outer@1.0.0": "beside"}
    for time in range(4):
        with using(library=MemoryLibrary(known)):
            added, kept = merge_package(package, choices)
        known |= {definition_key(one): one for one in added}
        assert len(added) == (2 if time == 0 else 0)
        assert kept == ([] if time == 0 else ["lift_2@1.0.0", "outer@1.0.0"])


def test_another_package_of_the_name_comes_beside_both(package: Package, colliding: MemoryLibrary) -> None:
    known = dict(colliding.definitions)
    choices = {"lift@1.0.0": "beside", "outer@1.0.0": "beside"}
    for time, summary in enumerate(("first", "second", "third")):
        other = deepcopy(package.definitions)
        other["lift@1.0.0"]["summary"] = summary
        with using(library=MemoryLibrary(known)):
            added, _ = merge_package(replace(package, definitions=other), choices)
        known |= {definition_key(one): one for one in added}
        assert added[0]["name"] == f"lift_{time + 2}"
