"""Slice: cut by a plane."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.plane_clip import clip_half, cut_by_plane, faces_of_open_components
from reticula.core.geometry.edit.subset import subset
from reticula.core.operators.declaration.operator import Output, operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Handle, Toggle, Vector
from reticula.core.spatial.winding import winding_numbers

__all__ = ["slice_"]

NEARLY = 0.1
"""How far the winding number of what counts as enclosed may be from a whole number."""


@operator(
    "slice",
    family="solids",
    outputs=(Output("above", "the side the direction points to"), Output("below", "the other side")),
    keywords=("cut", "plane", "section", "clip", "halve", "saw", "knife"),
    brings={"open borders": ("cap", False)},
    sections={
        "names of groups": ("border_group", "cap_group"),
    },
    carries=(
        "Carries all; values of points and corners are interpolated at the cut. Caps copy a face "
        "beside them, their corners a "
        "corner beside them. Loose points go to their side; curves through the plane go above whole."
    ),
    example="""
        stone = displace(geodesic_sphere(frequency=20), amount=0.15)
        top, bottom = slice(stone, direction=[0.3, 1, 0])
        lifted = transform(top, move=[0, 0.35, 0])
        join(lifted, bottom)
    """,
    related=("cut_by_value", "boolean", "split_by_group"),
    parameters=(
        Vector("through", [0.0, 0.0, 0.0], "a place on the plane", unit="m", soft=(-1, 1), handle=Handle("place")),
        Vector(
            "direction",
            [0.0, 1.0, 0.0],
            "the plane's normal, pointing above",
            soft=(-1, 1),
            handle=Handle("plane", ("through",)),
        ),
        Choice(
            "keep",
            "above and below",
            "what comes out",
            options={
                "above and below": "each side on its own output",
                "above": "only what lies above",
                "below": "only what lies below",
                "joined": "the whole mesh, cut along the plane but not parted, on both outputs",
            },
        ),
        Toggle("cap", True, "close the cut of solids with faces"),
        GroupName("border_group", "cut", "edge group that receives the edges along the cut", kind="edge"),
        GroupName("cap_group", "cap", "face group that receives the caps", kind="face"),
    ),
)
def slice_(
    geo: Geo, *, through: list[float], direction: list[float], keep: str, cap: bool, border_group: str, cap_group: str
) -> tuple[Geo, Geo]:
    """Cut faces along a plane and give both sides.

    Faces stay polygons; only those that the plane crosses more than twice are cut into triangles. Faces that lie in
    the plane go to the side that they are the surface of. Caps are one polygon where the outline has no holes. Shells
    in shells and solids that overlap or touch are closed each for itself; where the mesh is open, only what it encloses
    all but completely is.
    """
    normal = np.array(direction)
    if not normal.any():
        raise ParameterError("direction", "is 0; give the plane's normal, e.g. 0, 1, 0")
    normal /= np.linalg.norm(normal)
    whole, side, height = cut_by_plane(geo, np.array(through), normal, border_group)
    shape = whole.topology
    if keep == "joined":
        whole = whole.with_attribute("face", cap_group, np.zeros(shape.face_count, bool))
        return whole, whole
    if not whole.group("edge", border_group).any():
        warn("The plane does not cut any face.")
    made = []
    is_inside = _enclosure(geo)
    for sign, wanted in ((1.0, keep != "below"), (-1.0, keep != "above")):
        if wanted:
            half = clip_half(whole, side, height, sign, normal, border_group, cap_group, cap=cap, is_inside=is_inside)
            if half.uncapped and half.was_open:
                note("The mesh is open, so its cut is not closed everywhere; only what it encloses was capped.")
            elif half.uncapped:
                warn(f"{half.uncapped:,} edges of the cut form no closed outline and were not capped.")
            made.append(half.geo)
        else:
            nothing = np.zeros(shape.face_count, bool), np.zeros(shape.curve_count, bool)
            made.append(subset(whole, *nothing, loose=False).with_attribute("face", cap_group, np.zeros(0, bool)))
    note(f"{made[0].topology.face_count:,} faces above, {made[1].topology.face_count:,} below.")
    return made[0], made[1]


def _enclosure(geo: Geo) -> Callable[[Floats], Flags]:
    """Return what tells of places ``(N, 3)`` whether the open parts of a mesh enclose them nevertheless.

    They do if their winding number (Jacobson, Kavan and Sorkine-Hornung, SIGGRAPH 2013) is nearly that of a closed one.
    """

    @cache
    def open_part() -> Geo:
        no_curves = np.zeros(geo.topology.curve_count, bool)
        return subset(geo, faces_of_open_components(geo), no_curves, loose=False)

    def enclosed(places: Floats) -> Flags:
        winding = winding_numbers(open_part(), places, exact=True)
        return (np.rint(winding) >= 1) & (np.abs(winding - np.rint(winding)) < NEARLY)

    return enclosed
