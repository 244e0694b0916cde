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
TINY = 1_000


def rows() -> Iterator[Row]:
    """Yield what was measured. Workers are ready before the clock starts."""
    table = [{"ridge_height": float(height)} for height in np.linspace(0.001, 0.02, VARIANTS)]
    what: dict[str, Any] = {"inputs": SCAN, "table": table, "numbers": {"area": "area"}}
    with tempfile.TemporaryDirectory() as folder:
        took = {}
        for workers in (1, 2, 1, 2):
            with Cluster(workers=workers) as cluster:
                _ready(cluster)
                place = Path(folder, f"{workers}-{len(took)}")
                begin = time.perf_counter()
                run_batch(TILE, **what, out=f"{place}/{{row}}.glb", cluster=cluster)
                took.setdefault(workers, []).append(time.perf_counter() - begin)
        one, two = min(took[1]), min(took[2])
        yield Row(
            "settlement tile, 200 variants, 2 processes", f"{os.cpu_count()} cores", two, "1 process", one, two / one
        )
        again = time.perf_counter()
        made = run_batch(TILE, **what, out=f"{place}/{{row}}.glb")
        assert made.again == VARIANTS
        yield Row("the same again, all done", f"{VARIANTS} variants", time.perf_counter() - again, "none known")
        yield _overhead(Path(folder))


def _overhead(folder: Path) -> Row:
    """A part that has next to nothing to do, beside a bare call of Dask."""
    box = {**empty_document(), "dials": {"side": {"type": "number", "value": 1.0}}}
    box["nodes"] = {"box": {"operator": "box", "parameters": {"size": {"formula": "vec3(side)"}}}}
    (folder / "box.json").write_text(json.dumps(box))
    table = [{"side": 1.0 + number / TINY} for number in range(TINY)]
    with Cluster(workers=2) as cluster:
        _ready(cluster)
        begin = time.perf_counter()
        run_batch(folder / "box.json", table=table, manifest=folder / "tiny", cluster=cluster)
        ours = (time.perf_counter() - begin) / TINY
        begin = time.perf_counter()
        cluster.client.gather(cluster.client.map(_nothing, range(TINY), pure=False))
        bare = (time.perf_counter() - begin) / TINY
    return Row("a tiny part", f"{TINY:,} parts, 2 processes", ours, "bare client.map", bare, ours / bare)


def _ready(cluster: Cluster) -> None:
    cluster.client.gather(cluster.client.map(_nothing, range(8), pure=False))


def _nothing(number: int) -> int:
    return number
