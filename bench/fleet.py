"""Many results at once: what a second worker process gains, what a part costs beside bare Dask, and going on with what
is done.
"""

from __future__ import annotations

import json
import os
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from bench.measure import Row
from reticula.core.graph.structure.document import empty_document
from reticula.many import run_batch
from reticula.many.cluster import Cluster

__all__ = ["rows"]

TILE = Path(__file__).resolve().parents[1] / "demo" / "settlement_tile.json"
SCAN = {"survey_scan": str(TILE.with_name("survey_scan.ply"))}
VARIANTS = 200
TINY, MANY = 1_000, 100_000


def rows() -> Iterator[Row]:
    """Yield what was measured. Workers are ready before the clock starts, and each works with one thread."""
    table = [{"ridge_height": float(height)} for height in np.linspace(0.001, 0.02, VARIANTS)]
    what: dict[str, Any] = {"inputs": SCAN, "table": table, "numbers": {"area": "area"}}
    with tempfile.TemporaryDirectory() as folder:
        took: dict[int, list[float]] = {}
        for turn, workers in enumerate((1, 2, 4, 1, 2, 4)):
            with Cluster(workers=workers, threads=1) as cluster:
                _ready(cluster)
                place = Path(folder, f"{workers}-{turn}")
                begin = time.perf_counter()
                run_batch(TILE, **what, out=f"{place}/{{row}}.glb", cluster=cluster)
                took.setdefault(workers, []).append(time.perf_counter() - begin)
        one = min(took[1])
        for workers in (2, 4):
            more = min(took[workers])
            name = f"settlement tile, {VARIANTS} variants, {workers} processes"
            yield Row(name, f"{os.cpu_count()} cores", more, "1 process", one, more / one)
        again = time.perf_counter()
        made = run_batch(TILE, **what, out=f"{place}/{{row}}.glb")
        assert made.again == VARIANTS
        yield Row("the same again, all done", f"{VARIANTS} variants", time.perf_counter() - again, "none known")
        yield _overhead(Path(folder), TINY)


def crowd() -> Iterator[Row]:
    """Yield what a run of very many tiny parts takes each; takes minutes."""
    with tempfile.TemporaryDirectory() as folder:
        yield _overhead(Path(folder), MANY)


def _overhead(folder: Path, count: int) -> Row:
    """A part that has next to nothing to do, beside a bare call of Dask."""
    box = {**empty_document(), "dials": {"side": {"type": "number", "value": 1.0}}}
    box["nodes"] = {"box": {"operator": "box", "parameters": {"size": {"formula": "vec3(side)"}}}}
    (folder / "box.json").write_text(json.dumps(box))
    table = [{"side": 1.0 + number / count} for number in range(count)]
    with Cluster(workers=2) as cluster:
        _ready(cluster)
        begin = time.perf_counter()
        run_batch(folder / "box.json", table=table, manifest=folder / "tiny", cluster=cluster)
        ours = (time.perf_counter() - begin) / count
        begin = time.perf_counter()
        cluster.client.gather(cluster.client.map(_nothing, range(count), pure=False))
        bare = (time.perf_counter() - begin) / count
    return Row("a tiny part", f"{count:,} parts, 2 processes", ours, "bare client.map", bare, ours / bare)


def _ready(cluster: Cluster) -> None:
    cluster.client.gather(cluster.client.map(_nothing, range(8), pure=False))


def _nothing(number: int) -> int:
    return number
