"""Shapes in notebooks: what is sent to the picture, and how colours are chosen."""

from __future__ import annotations

import subprocess
import sys

import numpy as np
import pytest

import reticula
from reticula.core import Geo, ops
from reticula.core.errors import ReticulaError
from reticula.notebook import show


@pytest.fixture
def warm() -> Geo:
    return ops.set_attribute(ops.box(), name="heat", value="position")


def numbers(view: object, digest: str) -> np.ndarray:
    return np.frombuffer(view.arrays[digest], "<f4")  # type: ignore[attr-defined]


def test_shapes_are_sent_with_their_arrays(warm: Geo) -> None:
    view = show(warm, ops.sphere(), titles=["before", "after"])
    assert [one["title"] for one in view.shapes] == ["before", "after"]
    assert view.shapes[0]["counts"] == "8 points, 24 corners, 6 faces"
    places = numbers(view, view.shapes[0]["mesh"]["position"]["digest"]).reshape(-1, 3)
    assert np.array_equal(places, warm.positions.astype(np.float32))
    offered = {(one["kind"], one["name"]): one["parts"] for one in view.shapes[0]["attributes"]}
    assert offered["point", "heat"] == ["length", "x", "y", "z"]
    assert offered["corner", "uv"] == ["length", "x", "y"]


def test_colours_are_chosen_by_name_and_changed_later(warm: Geo) -> None:
    view = show(warm, ops.box(), color="heat.y")
    assert view.color == {"kind": "point", "name": "heat", "part": "y"}
    assert [one and one["name"] for one in view.looks] == ["heat", None]
    view.color = {"kind": "corner", "name": "uv", "part": "x"}
    assert [one and one["name"] for one in view.looks] == ["uv", "uv"]
    assert view.looks[0]["values"]["digest"] in view.arrays
    view.color = None
    assert view.looks == [None, None]


def test_a_colour_or_a_value_shows_by_itself(warm: Geo) -> None:
    assert show(warm).color is None
    valued = ops.set_attribute(warm, name="value", value="1")
    assert show(valued).color == {"kind": "point", "name": "value", "part": ""}
    tinted = ops.set_attribute(warm, name="color", kind="face", value="vec4(1, 0, 0, 1)")
    assert show(tinted).color == {"kind": "face", "name": "color", "part": ""}


def test_other_geometries_take_the_same_place(warm: Geo) -> None:
    view = show(warm, color="heat")
    view.set_geometries([ops.split_faces(warm)])
    assert "24 faces" in view.shapes[0]["counts"]
    assert view.color is not None
    assert len(numbers(view, view.looks[0]["values"]["digest"])) == 26 * 3


def test_what_cannot_be_shown_is_said(warm: Geo, monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(ReticulaError, match="no geometry here has 'heart'; they have heat, position, uv"):
        show(warm, color="heart")
    with pytest.raises(ReticulaError, match="show takes geometries"):
        show()
    monkeypatch.setattr("reticula.notebook.view.MOST_BYTES", 10)
    with pytest.raises(ReticulaError, match="too large for a notebook"):
        show(warm)


def test_a_geometry_shows_itself_and_is_told_in_words(warm: Geo) -> None:
    data = warm._repr_mimebundle_()
    bundle = data[0] if isinstance(data, tuple) else data
    assert "application/vnd.jupyter.widget-view+json" in bundle
    assert reticula.show is show
    assert {"show", "controls"} <= set(dir(reticula))
    with pytest.raises(AttributeError, match="no attribute 'colour_in'"):
        reticula.colour_in  # noqa: B018 - asked for on purpose


def test_without_the_view_a_geometry_is_told_in_words() -> None:
    code = (
        "import sys; sys.modules['anywidget'] = None\n"
        "from reticula.core import ops\n"
        "sys.exit(ops.box()._repr_mimebundle_() is not None)"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0
