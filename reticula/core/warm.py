"""Builds all compiled kernels, or loads them from disk: ``python -m reticula.core.warm``.

Runs every operator that needs no file once on something small. At set-up this takes about a minute; afterwards the
kernels lie on disk beside their sources and this takes a second or two in each new process.
"""

from __future__ import annotations

import time

from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.notes import collecting
from reticula.core.operators import OPERATORS, ops
from reticula.core.spatial import surface_of
from reticula.core.summary import describe_geo

__all__ = ["warm"]


def warm() -> float:
    """Make all kernels ready and return the seconds it took."""
    begin = time.perf_counter()
    with collecting():
        sheet = ops.smooth_subdivide(ops.grid(cells=(2, 2)), levels=1)
        sheet = ops.set_attribute(sheet, name="value", value="noise(position * 3, 2) + cells(position) + random(1)")
        sheet = ops.set_attribute(
            sheet, name="mean", kind="face", value="mean(here.points.value) + len(here.neighbours)"
        )
        tall = ops.cylinder(segments=5)
        for entry in OPERATORS.values():
            if entry.family != "sources" and entry.inputs:
                entry(*([sheet, tall][: len(entry.inputs)]))
        describe_geo(tall)
        surface_of(tall).closest(sheet.positions)
        for ending, chosen in FORMATS.items():
            for encoding in chosen.options.get("encoding", ("",)):
                options = {"encoding": encoding} if encoding else {}
                read_bytes(f"a.{ending}", write_bytes(tall, f"a.{ending}", **options))
    return time.perf_counter() - begin


if __name__ == "__main__":
    print(f"Kernels ready after {warm():.1f} s.")
