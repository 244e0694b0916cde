"""Repair: what is wrong with a mesh, mended step by step."""

from __future__ import annotations

import numpy as np

from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.slivers import without_slivers
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Number, Toggle
from reticula.core.operators.shared.facing import find_orientation
from reticula.core.operators.shared.repair_steps import (
    fill_small_holes,
    part_crowded,
    resolve_crossings,
    without_doubles,
)

__all__ = ["repair"]


@operator(
    "repair",
    family="topology",
    keywords=(
        "mend",
        "heal",
        "clean",
        "fix",
        "self-intersection",
        "manifold",
        "holes",
        "slivers",
        "scan",
        "watertight",
    ),
    brings={"points in one place": None},
    sections={
        "limits": ("tolerance", "hole_size"),
        "names of groups": ("fill_group",),
    },
    carries="Carries all. Points welded keep the first one's values, cut faces interpolate, faces over holes copy the "
    "face beside them.",
    example="""
        broken = remove(sphere(), where="index % 45 == 0 or abs(position.x) > 0.45")
        whole = repair(broken, hole_size=1)
        set_attribute(whole, kind="face", name="color", where="filled", value=CORAL)
    """,
    related=("weld", "fill", "orient_faces"),
    parameters=(
        Toggle("doubles", True, "weld points in one place, and drop faces that lie on the points of another"),
        Toggle("slivers", True, "take triangles without breadth out, so that nothing opens"),
        Number(
            "tolerance",
            {"formula": "0.000001 * extent"},
            "what is nearer than this is in one place; what is thinner has no breadth",
            unit="m",
            soft=(0.0, 0.01),
            low=0.0,
        ),
        Toggle("orient", True, "turn faces so that neighbours look alike and closed parts outwards"),
        Toggle("crossings", True, "cut faces where they cross each other; of closed parts, keep the outer surface"),
        Choice(
            "crowded",
            "part",
            "edges with more than two faces, and points where faces meet that share no edge there",
            options={
                "part": "part them: what bounds one solid stays together",
                "drop": "part them, and drop what hangs on there without closing anything, as fins",
                "leave": "leave them",
            },
        ),
        Toggle("holes", True, "close small holes"),
        Number(
            "hole_size",
            {"formula": "0.5 * extent"},
            "borders up to this long around are holes to close",
            unit="m",
            soft=(0.0, 10.0),
            low=0.0,
            shown_when=("holes", True),
        ),
        GroupName("fill_group", "filled", "face group that receives the faces over holes", kind="face"),
    ),
)
def repair(
    geo: Geo,
    *,
    doubles: bool,
    slivers: bool,
    tolerance: float,
    orient: bool,
    crossings: bool,
    crowded: str,
    holes: bool,
    hole_size: float,
    fill_group: str,
) -> Geo:
    """Mend a mesh in steps, from top to bottom; each says what it found, and can be left out.

    What is in order stays as it is, to the bit. Crossings are resolved where parts are closed; of open parts, crossing
    faces are cut so that they share their points along the crossing. Outer borders of flat sheets are no holes.
    """
    if not geo.topology.face_count:
        warn("There are no faces, so there is nothing to mend.")
        return geo.with_attribute("face", fill_group, np.zeros(0, bool))
    made = geo
    if doubles:
        made, welded, dropped = without_doubles(made, tolerance, keep_closed=crossings)
        _tell(welded, "points in one place welded")
        _tell(dropped, "double faces dropped")
    if slivers:
        made, thin = without_slivers(made, tolerance)
        _tell(thin, "faces without breadth taken out")
    if orient:
        made = _oriented(made)
    if crossings:
        resolved = resolve_crossings(made, tolerance)
        made = resolved.geo
        _tell(resolved.cut, "faces crossed others and were cut")
        _tell(resolved.dropped, "pieces inside of solids dropped")
        if resolved.torn:
            warn(f"{resolved.torn:,} edges of closed parts gape, where planes nearly coincide; move one a little.")
        if resolved.in_open:
            note(f"{resolved.in_open:,} of the cut faces belong to open parts, of which nothing was dropped.")
        if doubles:
            made, _, dropped = without_doubles(made, tolerance)
            _tell(dropped, "double faces of solids that lie in each other dropped")
    if crowded != "leave":
        parted = part_crowded(made, crowded == "drop")
        made = parted.geo
        _tell(parted.edges, "edges with more than two faces parted")
        _tell(parted.added, "points added where faces were parted")
        _tell(parted.dropped, "faces that hung on there dropped")
    before = made.topology.face_count
    if holes:
        made, closed, longer = fill_small_holes(made, hole_size)
        _tell(closed, "holes closed")
        if longer:
            note(f"{longer:,} borders are longer than {hole_size:.4g} m around and stay open.")
    if made is geo:
        note("Nothing was found to mend.")
    return made.with_attribute("face", fill_group, np.arange(made.topology.face_count) >= before)


def _tell(count: int, what: str) -> None:
    if count:
        note(f"{what.capitalize()}: {count:,}.")


def _oriented(geo: Geo) -> Geo:
    found = find_orientation(geo, np.ones(geo.topology.face_count, bool), "outermost outwards", None)
    _tell(int(found.turned.sum()), "faces turned over")
    if found.torn:
        warn(f"{found.torn:,} edges lie on bands with one side, so the faces beside them cannot agree.")
    if not found.turned.any():
        return geo
    return flipped(geo, found.turned, np.zeros(geo.topology.curve_count, bool))
