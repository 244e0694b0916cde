"""What importing a package would do, before anything is changed."""

from reticula.core.context import using
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import Package, review
from tests.core.packages.studio import published


def test_all_is_new_in_an_empty_library(package: Package) -> None:
    found = {entry.operator: entry for entry in review(package)}
    assert {name: entry.state for name, entry in found.items()} == {"lift@1.0.0": "new", "outer@1.0.0": "new"}
    assert found["lift@1.0.0"].dials == ["height (number)"]
    assert found["outer@1.0.0"].uses == ["lift@1.0.0"]
    assert found["lift@1.0.0"].describe()["title"] == "Lift"


def test_the_same_one_is_there_already(package: Package) -> None:
    library, _ = published()
    with using(library=library):
        states = {entry.operator: entry for entry in review(package)}
    assert states["lift@1.0.0"].state == "there already"
    assert states["lift@1.0.0"].other_name == ""


def test_another_one_collides_and_gets_a_free_name(package: Package, colliding: MemoryLibrary) -> None:
    with using(library=colliding):
        first = review(package)[0]
        second = review(package, taken=["lift_2"])[0]
    assert (first.state, first.other_name) == ("collides", "lift_2")
    assert second.other_name == "lift_3"
