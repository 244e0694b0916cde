"""The names of types."""

import pytest

from reticula.core.language.types import (
    element,
    in_words,
    is_element,
    is_list,
    is_place,
    item_of,
    kind_of,
    list_of,
    owner_of,
    place,
    width_of,
)


def test_elements_say_their_kind_and_whose_they_are() -> None:
    face = element("face", "reef")
    assert (is_element(face), kind_of(face), owner_of(face)) == (True, "face", "reef")
    assert owner_of(element("point")) == ""
    assert not is_element(list_of(face))
    assert is_list(list_of(face))
    assert item_of(list_of(face)) == face


def test_places_are_no_elements() -> None:
    found = place("reef", "closest")
    assert is_place(found)
    assert not is_element(found)
    assert owner_of(found) == "reef"


@pytest.mark.parametrize(("type", "width"), [("number", 1), ("vec3", 3), ("mat4", 16), (element("edge"), 1)])
def test_widths(type: str, width: int) -> None:
    assert width_of(type) == width


@pytest.mark.parametrize(
    ("type", "words"),
    [
        ("integer", "an integer"),
        ("vec2", "a vec2"),
        ("[?]", "an empty list"),
        ("[number]", "a list of numbers"),
        (list_of(element("edge")), "a list of edges"),
        (element("edge"), "an edge"),
        (place("reef", "closest"), "a place"),
    ],
)
def test_in_words(type: str, words: str) -> None:
    assert in_words(type) == words
