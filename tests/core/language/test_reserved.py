"""Names that formulas could not read, refused with what they mean."""

import keyword

import pytest

from reticula.core import ops
from reticula.core.errors import ParameterError
from reticula.core.language.reserved import readable_name, what_it_means


@pytest.mark.parametrize("name", ["if", "lambda", "True", "here", "index", "pi", "frame", "extent"])
def test_words_and_values_are_refused_as_names(name: str) -> None:
    for call in (
        lambda: ops.set_attribute(ops.grid(), name=name, value="1"),
        lambda: ops.group(ops.grid(), name=name, where="position.x > 0"),
        lambda: ops.rename_attribute(ops.grid(), name="uv", kind="corner", to=name),
    ):
        with pytest.raises(ParameterError, match=f"'{name}' is a (word of the language|built-in value)"):
            call()


def test_names_that_mean_something_elsewhere_are_free() -> None:
    for name in ("low", "round", "noise", "border"):
        assert what_it_means(name, group=True) == ""
    for name in ("normal", "area", "piece"):
        assert what_it_means(name) == ""
        assert what_it_means(name, group=True) != ""


def test_names_from_elsewhere_become_readable() -> None:
    assert readable_name("class") == "class_"
    assert readable_name("roof-top 3") == "roof_top_3"
    assert readable_name("3d") == "_3d"
    assert readable_name("") == "_"
    assert all(not what_it_means(readable_name(word)) for word in keyword.kwlist)
