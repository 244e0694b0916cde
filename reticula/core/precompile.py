"""Builds all compiled kernels, or loads them from disk: ``python -m reticula.core.precompile``.

Runs every operator that needs no file once on something small. At set-up this takes a few minutes; afterwards the
kernels lie on disk beside their sources and this takes a second or two in each new process.
"""

from __future__ import annotations

import contextlib
import time
from typing import Any

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.geometry import Geo
from reticula.core.operators import OPERATORS
from reticula.core.reports.summary import describe_geo
from reticula.core.spatial import surface_of

__all__ = ["precompile"]

VARIANTS: tuple[tuple[str, dict[str, Any]], ...] = (
    ("smooth_subdivide", {"scheme": "loop", "weight": 0.5}),
    ("bevel", {"segments": 4}),
    ("bevel", {"what": "point", "segments": 4}),
    ("extrude", {"divisions": 3, "inset": 0.01, "keep_base": True}),
    ("simplify", {"method": "weld"}),
    ("simplify", {"to": "error"}),
    ("struts", {}),
    ("fill", {"using": "even"}),
    ("inset", {"distance": 0.6, "limit": "divide"}),
    ("break_into_cells", {}),
    ("break_into_cells", {"most_neighbours": 3}),
    ("slice", {"direction": (1, 1, 0)}),
    ("boolean", {}),
)
"""Calls that reach kernels which defaults do not."""


def precompile() -> float:
    """Make all kernels ready and return the seconds it took."""
    begin = time.perf_counter()
    with collecting():
        sheet = ops.smooth_subdivide(ops.grid(cells=(2, 2)), levels=1)
        sheet = ops.set_attribute(sheet, name="value", value="noise(position * 3, 2) + cells(position) + random(1)")
        sheet = ops.set_attribute(
            sheet, name="mean", kind="face", value="mean(here.points.value) + len(here.neighbours)"
        )
        tall = ops.cylinder(segments=5)
        curve = ops.circle(segments=12)
        for geo in (tall, sheet, curve):
            for entry in OPERATORS.values():
                if entry.family != "sources" and entry.inputs:
                    with contextlib.suppress(ReticulaError):
                        entry(*([geo, tall][: len(entry.inputs)]))
        for name, parameters in VARIANTS:
            ops_entry = OPERATORS[name]
            ops_entry(*([ops.box(), ops.geodesic_sphere()][: len(ops_entry.inputs)]), **parameters)
        ops.repair(ops.join(tall, ops.transform(tall, move=(0.3, 0.2, 0.1))))
        ops.repair(
            Geo.from_faces([[0, 0, 0], [2, 0, 0], [1, 0, 0], [1, 1, 0], [1, -1, 0]], [[0, 1, 2], [1, 0, 4], [2, 3, 0]])
        )
        describe_geo(tall)
        surface_of(tall).closest(sheet.positions)
        for ending, chosen in FORMATS.items():
            for encoding in chosen.options.get("encoding", ("",)):
                options = {"encoding": encoding} if encoding else {}
                read_bytes(f"a.{ending}", write_bytes(tall, f"a.{ending}", **options))
    return time.perf_counter() - begin


if __name__ == "__main__":
    print(f"Kernels ready after {precompile():.1f} s.")
