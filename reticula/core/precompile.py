"""Builds all compiled kernels, or loads them from disk: ``python -m reticula.core.precompile``.

Runs every operator that needs no file once on something small. At set-up several processes share this, and it takes a
few minutes; afterwards the kernels lie on disk beside their sources and this takes a second or two in each new process.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import sys
import time
from collections.abc import Callable
from functools import cache, partial
from pathlib import Path
from typing import Any

import numpy as np

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.finite import MANY as MANY_NUMBERS
from reticula.core.finite import all_finite
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.geometry import Geo
from reticula.core.operators import OPERATORS
from reticula.core.reports.summary import describe_geo
from reticula.core.spatial import surface_of
from reticula.core.spatial.query_order import MANY as MANY_QUESTIONS
from reticula.core.spatial.query_order import query_order

__all__ = ["build", "precompile"]

Work = Callable[[], Any]

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
    ("triangulate", {"where": "index < 2"}),
    ("scatter", {"amount": "spacing", "spacing": 0.3}),
    ("boolean", {}),
)
"""Calls that reach kernels which defaults do not."""


MOST_PROCESSES = 4


def precompile() -> float:
    """Make all kernels ready in this process and return the seconds it took."""
    begin = time.perf_counter()
    for number in range(len(_works())):
        _do(number)
    return time.perf_counter() - begin


def build() -> float:
    """Build all kernels, if there are none yet by several processes, saying how far they are; return the seconds it
    took.
    """
    if next(Path(__file__).parent.rglob("*.nbi"), None):
        return precompile()  # most of them are there
    begin = time.perf_counter()
    total = len(_works())
    with multiprocessing.get_context("spawn").Pool(min(os.cpu_count() or 1, MOST_PROCESSES)) as pool:
        for done, _ in enumerate(pool.imap_unordered(_do, range(total)), start=1):
            _say(done, total)
    precompile()  # what two of them built at a time, only one has kept
    return time.perf_counter() - begin


def _say(done: int, total: int) -> None:
    """A bar on a terminal, else a line at every quarter."""
    if sys.stdout.isatty():
        print(f"\r  [{'#' * (40 * done // total):40}] {done} of {total}", end="\n" if done == total else "", flush=True)
    elif 4 * done // total > 4 * (done - 1) // total:
        print(f"  {100 * done // total} %", flush=True)


def _do(number: int) -> None:
    with collecting():
        _works()[number]()


@cache
def _sheet() -> Geo:
    sheet = ops.smooth_subdivide(ops.grid(cells=(2, 2)), levels=1)
    sheet = ops.set_attribute(sheet, name="value", value="noise(position * 3, 2) + cells(position) + random(1)")
    return ops.set_attribute(sheet, name="mean", kind="face", value="mean(here.points.value) + len(here.neighbours)")


@cache
def _tall() -> Geo:
    return ops.cylinder(segments=5)


@cache
def _curve() -> Geo:
    return ops.circle(segments=12)


@cache
def _works() -> list[Work]:
    """All that is to be run once, in pieces that may be run in any order."""
    used = [name for name, entry in OPERATORS.items() if entry.family != "sources" and entry.inputs]
    return [
        *(partial(_on_each, name) for name in used),
        *(partial(_variant, name, parameters) for name, parameters in VARIANTS),
        _repairs,
        lambda: describe_geo(_tall()),
        lambda: surface_of(_tall()).closest(_sheet().positions),
        lambda: all_finite(np.zeros(MANY_NUMBERS)),
        lambda: query_order(np.random.default_rng(0).random((MANY_QUESTIONS, 3))),
        *(partial(_written, ending) for ending, chosen in FORMATS.items() if not chosen.library),
    ]


def _on_each(name: str) -> None:
    entry = OPERATORS[name]
    for geo in (_tall(), _sheet(), _curve()):
        with contextlib.suppress(ReticulaError):
            entry(*([geo, _tall()][: len(entry.inputs)]))


def _variant(name: str, parameters: dict[str, Any]) -> None:
    OPERATORS[name](*([ops.box(), ops.geodesic_sphere()][: len(OPERATORS[name].inputs)]), **parameters)


def _repairs() -> None:
    ops.repair(ops.join(_tall(), ops.transform(_tall(), move=(0.3, 0.2, 0.1))))
    ops.repair(
        Geo.from_faces([[0, 0, 0], [2, 0, 0], [1, 0, 0], [1, 1, 0], [1, -1, 0]], [[0, 1, 2], [1, 0, 4], [2, 3, 0]])
    )


def _written(ending: str) -> None:
    for encoding in FORMATS[ending].options.get("encoding", ("",)):
        options = {"encoding": encoding} if encoding else {}
        read_bytes(f"a.{ending}", write_bytes(_tall(), f"a.{ending}", **options))


if __name__ == "__main__":
    from reticula.core import precompile as module  # its functions are found by the processes under this name

    print(f"Kernels ready after {module.build():.1f} s.")
