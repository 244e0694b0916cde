"""Values of every kind and type through every operator: what is not there afterwards was told, or documented."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import ReticulaError
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.operators import OPERATORS
from tests.invariance.motions import NAMES, SHAPES

KINDS_WITH = ("point", "face", "edge", "corner", "curve", "whole")
MAKES_NEW = {
    "scatter": "points",
    "scatter_in_region": "points",
    "scatter_in_volume": "points",
    "curve_through": "a curve through places",
    "ray_hits": "points where rays meet something",
    "dual": "points become faces, faces points, and their values with them",
    "move_attribute": "takes values from one kind to another",
}
"""Operators whose result is something else than what comes in, as their help says."""
NAMED_ANEW: set[str] = set()
"""Operators whose new elements begin with the names of generated ones, which may be those that came in."""


def with_values(geo: Geo) -> Geo:
    """A number, an integer, a flag, a vector and a text on every kind that has elements."""
    for kind in KINDS_WITH:
        count = geo.topology.count(kind)
        if not count:
            continue
        number = np.arange(count)
        geo = geo.with_attribute(kind, f"{kind}_number", number + 0.5)
        geo = geo.with_attribute(kind, f"{kind}_integer", number)
        geo = geo.with_attribute(kind, f"{kind}_flag", number % 2 == 0)
        geo = geo.with_attribute(kind, f"{kind}_vector", np.tile([1.0, 2.0, 3.0], (count, 1)), "vec3")
        geo = geo.with_attribute(kind, f"{kind}_text", np.array([f"t{n % 3}" for n in range(count)]))
    return geo


def run(name: str, geo: Geo) -> tuple[list[Geo], list[Note]] | None:
    entry = OPERATORS[name]
    given = [[geo] if wish.many else geo for wish in entry.inputs]
    with collecting() as notes:
        try:
            return list(entry.run(given, entry.check({}))), list(notes)
        except ReticulaError:
            return None


@pytest.mark.parametrize("name", [name for name in NAMES if name not in MAKES_NEW])
@pytest.mark.parametrize("kind", SHAPES)
def test_nothing_is_lost_without_a_word(kind: str, name: str) -> None:
    geo = with_values(SHAPES[kind]())
    made = run(name, geo)
    if made is None:
        return
    result, notes = made[0][0], made[1]
    missing = []
    for of, named in geo.attributes.items():
        for attribute in named:
            if attribute in result.attributes[of] or not result.topology.count(of):
                continue
            told = any(attribute in note.text or f"{of} values" in note.text for note in notes)
            if not told:
                missing.append(f"{of} {attribute}")
    assert not missing, f"{missing} are gone; its help says: {OPERATORS[name].carries}"


@pytest.mark.parametrize("name", [name for name in NAMES if name not in MAKES_NEW.keys() | NAMED_ANEW])
@pytest.mark.parametrize("kind", SHAPES)
def test_elements_that_stay_keep_their_values(kind: str, name: str) -> None:
    """An element with the name and the place of one that came in has its values, or the operator is about values."""
    geo = with_values(SHAPES[kind]())
    made = run(name, geo)
    if made is None or OPERATORS[name].family in {"attributes", "groups"}:
        return
    result = made[0][0]
    for of in ("point", "face"):
        names, ahead = geo.identity(of), result.identity(of)
        known = {int(one): row for row, one in enumerate(names)}
        rows = [(known[int(one)], row) for row, one in enumerate(ahead) if int(one) in known]
        if not rows or f"{of}_text" not in result.attributes[of]:
            continue
        before, after = np.array(rows).T
        text: Attribute = result.find(of, f"{of}_text")
        assert np.array_equal(text.values[after], geo.find(of, f"{of}_text").values[before])


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("kind", SHAPES)
def test_values_of_the_whole_always_go_along(kind: str, name: str) -> None:
    geo = with_values(SHAPES[kind]())
    made = run(name, geo)
    for out in made[0] if made else []:
        assert geo.attributes["whole"].keys() <= out.attributes["whole"].keys()


@pytest.mark.parametrize("name", ["scatter", "scatter_in_region", "scatter_in_volume", "ray_hits"])
def test_makers_of_new_points_say_what_they_leave_behind(name: str) -> None:
    geo = with_values(SHAPES["ball"]())
    made = run(name, geo)
    assert made is not None
    told = " ".join(note.text for note in made[1])
    for kind, named in geo.attributes.items():
        for attribute in named.keys() - {"position"}:
            carried = made[0][0].has("point", attribute) or made[0][0].has("whole", attribute)
            assert carried or attribute in told, f"{kind} {attribute}"
