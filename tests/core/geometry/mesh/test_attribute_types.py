"""The table of attribute types: whatever goes by it is tried with every row."""

import pickle

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.geometry import Attribute, SourceMap, Weights
from reticula.core.geometry.mesh.attribute_types import (
    BLENDED,
    TYPES,
    attribute_type,
    guess_type,
    list_type,
    vector_type,
    well_known_default,
)
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted

PLAIN = [name for name, info in TYPES.items() if not info.is_list]
CONVERTED = [name for name, info in TYPES.items() if info.cast]


def some_of(name: str, count: int) -> Attribute:
    """Values of a type, no two alike where it has that many."""
    info, at = TYPES[name], np.arange(count)
    words = np.array([f"w{i}" for i in at])
    whole = {"U": words, "b": at % 2 == 0, "i": at * 3 - 5}.get(np.dtype(info.dtype).kind, at * 0.5 - 1)
    if info.is_list:
        return Attribute.of([whole[: i % 4].tolist() for i in at], name)
    return Attribute.of(np.array([np.full(info.shape, one) for one in whole]) if info.shape else whole, name)


def holding(name: str) -> Geo:
    """A sheet whose points, faces and whole have a value of a type."""
    sheet = ops.grid(cells=(3, 2))
    for kind in ("point", "face", "whole"):
        held = some_of(name, sheet.topology.count(kind))
        sheet = Geo(sheet.topology, {**sheet.attributes, kind: {**sheet.attributes[kind], "held": held}})
    return sheet


def equal(a: Attribute, b: Attribute) -> bool:
    return a.type == b.type and [a.row(i) for i in range(len(a))] == [b.row(i) for i in range(len(b))]


@pytest.mark.parametrize("name", PLAIN)
def test_the_type_of_an_array_is_found_again(name: str) -> None:
    assert guess_type(some_of(name, 2).values) == name


@pytest.mark.parametrize("name", TYPES)
def test_every_row_is_whole(name: str) -> None:
    info = TYPES[name]
    assert info.about
    assert pickle.loads(pickle.dumps(info)) is info
    assert len(info.parts) in (0, info.size)
    filled = Attribute.filled(name, 3)
    assert len(filled) == 3
    assert np.array_equal(filled.row(1), info.zero)
    assert equal(filled.take(np.array([0, -1])), filled.take(np.array([2, 1])))


@pytest.mark.parametrize("name", TYPES)
def test_values_are_carried_by_an_edit(name: str) -> None:
    sheet = holding(name)
    turned = ops.transform(sheet, move=(1, 0, 0))
    both = ops.join(sheet, turned)
    count = sheet.topology.point_count
    held = both.find("point", "held")
    assert [held.row(i) for i in range(count)] == [held.row(i + count) for i in range(count)]


@pytest.mark.parametrize("name", TYPES)
def test_values_come_back_from_a_file(name: str) -> None:
    sheet = holding(name)
    for encoding in FORMATS["ply"].options["encoding"]:
        back = read_bytes("a.ply", write_bytes(sheet, "a.ply", encoding=encoding))
        for kind in ("point", "face", "whole"):
            assert equal(back.find(kind, "held"), sheet.find(kind, "held")), (kind, encoding)


@pytest.mark.parametrize("name", TYPES)
def test_scripts_read_and_write_them_alike_in_both_back_ends(name: str) -> None:
    sheet = holding(name)
    text = "here.again = here.held\nfor p in here.neighbours:\n    x = p.held\n"
    first, second = run_script(sheet, text, backend="vector"), run_interpreted(sheet, text)
    for made in (first, second):
        assert equal(made.find("point", "again"), sheet.find("point", "held"))


@pytest.mark.parametrize("name", PLAIN)
def test_half_way_is_the_mean_or_one_of_the_two(name: str) -> None:
    held = some_of(name, 3)
    half = SourceMap(np.array([0]), Weights.rows(np.array([[0, 1]]), np.array([[0.5, 0.5]]))).attribute("held", held)
    mean = (held.values[0] + held.values[1]) / 2 if name in BLENDED else held.values[0]
    assert np.array_equal(half.values[0], mean)


@pytest.mark.parametrize("old", CONVERTED)
@pytest.mark.parametrize("new", CONVERTED)
def test_every_type_becomes_every_other_that_converts(old: str, new: str) -> None:
    with collecting():
        made = ops.convert_attribute(holding(old), name="held", type=new)
    assert made.find("point", "held").type == new
    if old == new or new == "text":
        with collecting():
            back = ops.convert_attribute(made, name="held", type=old)
        assert old != new or equal(back.find("point", "held"), holding(old).find("point", "held"))


def test_numbers_fit_the_components_of_another_type() -> None:
    vec3, vec4, number = TYPES["vec3"], TYPES["vec4"], TYPES["number"]
    assert vec4.made_of(np.array([[1.0, 2.0, 3.0]]), vec3)[0].tolist() == [[1, 2, 3, 1]]
    assert vec3.made_of(np.array([2.0]), number)[0].tolist() == [[2, 2, 2]]
    assert number.made_of(np.array([[1.0, 2.0, 3.0]]), vec3)[0].tolist() == [1.0]
    made, bad = number.made_of(np.array(["1.5", "sand", "sand"]), TYPES["text"])
    assert (made.reshape(-1).tolist(), bad) == ([1.5, 0.0, 0.0], 2)


def test_what_is_blended_is_made_of_numbers_with_fractions() -> None:
    assert all(np.dtype(TYPES[name].dtype).kind == "f" for name in BLENDED)
    assert {"number", "vec3", "mat4"} <= set(BLENDED)


def test_lists_by_what_they_hold() -> None:
    assert [found.name for found in map(list_type, ("number", "text")) if found] == ["number list", "text list"]
    assert list_type("vec3") is None


def test_vectors_by_their_size() -> None:
    assert [vector_type(size).name for size in (1, 2, 3, 4)] == ["number", "vec2", "vec3", "vec4"]
    with pytest.raises(GeometryError):
        vector_type(7)


def test_an_unknown_type_names_those_that_exist() -> None:
    with pytest.raises(GeometryError, match="the types are number, integer, flag"):
        attribute_type("quaternion")


def test_well_known_names_do_not_turn_black_or_vanish() -> None:
    assert well_known_default("color", "vec4") == [1, 1, 1, 1]
    assert well_known_default("scale", "number") == 1
    assert well_known_default("heat", "number") is None
