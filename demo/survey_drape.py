"""The demo graph `Survey drape`: ``python -m demo.survey_drape`` writes ``survey_drape.json``.

A clean mat of quads is laid onto a survey scan that stands somewhere else; the scan's cover and depth are carried over,
feathered at the scan's borders, so that nothing is lost and nothing ends with a step.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["survey_drape"]


def survey_drape() -> dict[str, Any]:
    """Return the graph: a scan's cover and depth carried to a clean mesh."""
    nodes = {
        "scan": node(
            "project_shape", "Survey scan", shape="survey_scan", stands_at=[0.05, 0.006, 0.03], turned=[0, 25, 0]
        ),
        "depth": node(
            "set_attribute", "Depth below the surface", "scan", name="depth", value={"formula": "6.2 - position.y"}
        ),
        "mat": node("grid", "Clean mat", size=[0.46, 0.46], cells=[56, 56]),
        "lay": node("drape", "Lay it down", "mat", inputs={"ground": ["depth"]}, way="direction", offset=0.004),
        "even": node("smooth", "Ease the rim", "lay", where="not draped", iterations=20),
        "carry": node(
            "transfer_attribute",
            "Carry cover and depth",
            "even",
            inputs={"source": ["depth"]},
            attributes="cover depth",
            limit_reach=True,
            reach=0.01,
            feather={"formula": "feather"},
            rename="scan_*",
        ),
        "rich": node(
            "group", "Rich cover", "carry", name="rich", kind="face", where="mean(here.points.scan_cover) > rich_from"
        ),
        "border": node("group_border", "Its outline", "rich", name="outline", kind="edge", of="faces", where="rich"),
        "counts": node(
            "statistics", "Cover in numbers", "border", name="cover", value={"formula": "scan_cover"}, where="draped"
        ),
        "colour": node(
            "remap",
            "Shown by cover",
            "counts",
            value={"formula": "scan_cover"},
            name="color",
            through="gradient",
            from_range="given",
            low=0.0,
            high={"formula": "geo.cover_high"},
        ),
        "raise": node("extrude", "Raised where rich", "colour", where="rich", distance=0.006),
    }
    dials = {
        "feather": dial(0.06, (0.0, 0.15), "way along which values fade beyond the scan", "m"),
        "rich_from": dial(0.6, (0.0, 1.0), "cover from which a face counts as rich", "", 0.01),
    }
    notes = "The scan keeps its own place; the mat sees it where it stands. Values fade out beyond its border."
    return document("Survey drape", notes, nodes, dials, "raise")


if __name__ == "__main__":
    write("survey_drape", survey_drape())
