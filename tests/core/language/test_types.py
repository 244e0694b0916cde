"""Types are objects: what each says about itself."""

import pickle

import pytest

from reticula.core.language.types import (
    INTEGER,
    NUMBER,
    STORED_LISTS,
    TEXT,
    ElementOf,
    ListOf,
    in_words,
    is_list,
    item_of,
    kernel_dtype,
    kind_of,
    owner_of,
    type_of_attribute,
    width_of,
)
from tests.core.language.programs.checked import named


def test_elements_say_their_kind_and_whose_they_are() -> None:
    face = ElementOf("face", "reef")
    assert (kind_of(face), owner_of(face)) == ("face", "reef")
    assert owner_of(ElementOf("point")) == ""
    assert is_list(ListOf(face))
    assert item_of(ListOf(face)) == face == ElementOf("face", "reef")


def test_what_is_no_list_has_no_items() -> None:
    with pytest.raises(AssertionError):
        item_of(NUMBER)
    with pytest.raises(AssertionError):
        kind_of(named("place@reef.closest"))


@pytest.mark.parametrize("short", ["number", "[vec3]", "point@reef", "place@reef.closest", "[?]"])
def test_the_short_form_names_a_type(short: str) -> None:
    assert str(named(short)) == short
    assert owner_of(named("place@reef.closest")) == "reef"


def test_a_type_is_one_object_wherever_it_goes() -> None:
    assert pickle.loads(pickle.dumps(ListOf(NUMBER))).item is NUMBER


def test_attributes_hold_lists_of_what_they_say() -> None:
    assert type_of_attribute("integer list") == ListOf(INTEGER)
    assert type_of_attribute("text") is TEXT
    assert STORED_LISTS[ListOf(TEXT)].name == "text list"


@pytest.mark.parametrize(("short", "width"), [("number", 1), ("vec3", 3), ("mat4", 16), ("edge@", 1)])
def test_widths(short: str, width: int) -> None:
    assert width_of(named(short)) == width


@pytest.mark.parametrize(
    ("short", "dtype"),
    [("number", "float64"), ("mat3", "float64"), ("flag", "bool"), ("text", "int64"), ("face@", "int64")],
)
def test_compiled_code_holds_texts_and_elements_as_numbers(short: str, dtype: str) -> None:
    assert kernel_dtype(named(short)) == dtype


@pytest.mark.parametrize(
    ("short", "words"),
    [
        ("integer", "an integer"),
        ("vec2", "a vec2"),
        ("[?]", "an empty list"),
        ("[number]", "a list of numbers"),
        ("[edge@]", "a list of edges"),
        ("edge@", "an edge"),
        ("place@reef.closest", "a place"),
    ],
)
def test_in_words(short: str, words: str) -> None:
    assert in_words(named(short)) == words
