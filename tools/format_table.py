"""What each file format keeps, found by writing a shape that has everything and reading it back."""

from __future__ import annotations

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, WRITTEN, Format, write_bytes
from reticula.core.geometry import KINDS, Kind, Topology

__all__ = ["format_table"]

COLUMNS = (
    "points",
    "faces",
    "n-gons",
    "curves",
    "instances",
    "uv",
    "colour",
    "normals",
    "values of",
    "groups",
    "place",
)


def _everything() -> Geo:
    """Return a pentagon and a triangle, a curve and a loose point, with values on all of them."""
    places = [(0, 0, 0), (1, 0, 0), (1.5, 0, -1), (0.5, 0, -2), (-0.5, 0, -1), (3, 0, 0), (3, 0, -1), (5, 0, 5)]
    geo = Geo.of(places, Topology(8, [0, 5, 8], [0, 1, 2, 3, 4, 2, 1, 5], [0, 3], [5, 6, 2], [False]))
    for kind in KINDS:
        if kind != "instance":
            geo = geo.with_attribute(kind, f"{kind}_value", np.arange(geo.topology.count(kind)) + 0.5)
    geo = geo.with_attribute("face", "marked", [True, False]).with_attribute("point", "picked", np.arange(8) > 3)
    geo = geo.with_attribute("point", "color", np.eye(4)[[0, 1, 2, 0, 1, 2, 0, 1]] + [0, 0, 0, 1])
    geo = geo.with_attribute("corner", "uv", np.arange(16).reshape(8, 2) / 16)
    return geo.with_attribute("point", "normal", np.tile([0.0, 1, 0], (8, 1)))


def _back(chosen: Format, geo: Geo) -> Geo:
    with collecting():
        try:
            return chosen.read(write_bytes(geo, f"a.{chosen.ending}"))
        except FormatError:
            return Geo.empty()


def _has(geo: Geo, name: str, kinds: tuple[Kind, ...] = ("point", "corner", "face", "curve")) -> bool:
    return any(geo.has(kind, name) for kind in kinds)


def _kept(chosen: Format) -> list[str]:
    whole = _everything()
    back = _back(chosen, whole)
    with collecting():
        placed = ops.place_instances(Geo.of([(0, 0, 0), (2, 0, 0)]), ops.box())
    moved = ops.box().with_attribute("whole", "place", np.array([np.diag([1.0, 1, 1, 1])]) + 0.0, "mat4")
    shifted = np.eye(4)
    shifted[:3, 3] = [1, 2, 3]
    moved = moved.with_attribute("whole", "place", shifted[None], "mat4")
    values = [kind for kind in KINDS if kind != "instance" and back.has(kind, f"{kind}_value")]
    sizes = np.diff(back.topology.face_start)
    found = {
        "points": back.topology.point_count > 0 and bool((~back.topology.used_points).any()),
        "faces": len(sizes) > 0,
        "n-gons": len(sizes) > 0 and int(sizes.max()) == 5,
        "curves": back.topology.curve_count > 0,
        "instances": _back(chosen, placed).topology.instance_count == 2,
        "uv": _has(back, "uv"),
        "colour": _has(back, "color"),
        "normals": _has(back, "normal"),
        "values of": ", ".join("points" if kind == "point" else kind for kind in values),
        "groups": ", ".join(
            word
            for word, kept in (("faces", back.has("face", "marked")), ("points", back.has("point", "picked")))
            if kept
        ),
        "place": _back(chosen, moved).has("whole", "place"),
    }
    return ["yes" if found[one] is True else found[one] or "" for one in COLUMNS]  # type: ignore[misc]


def format_table() -> str:
    """Return the table of all formats in Markdown."""
    head = ["format", "ending", *COLUMNS, "frames in one file", "by"]
    rows = [" | ".join(head), " | ".join("---" for _ in head)]
    for ending, chosen in WRITTEN.items():
        cells = [chosen.name, f".{ending}", *_kept(chosen), "yes" if chosen.frames else "", chosen.library]
        rows.append(" | ".join(cells))
    for ending, chosen in FORMATS.items():
        if not chosen.writes:
            rows.append(" | ".join([chosen.name, f".{ending}", *[""] * len(COLUMNS), "", chosen.library]))
    return "\n".join(f"| {row} |" for row in rows) + "\n"
