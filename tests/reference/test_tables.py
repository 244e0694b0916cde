"""Tables beside other readers and beside NumPy: what a dial gets from a log.

Oracles: Python's csv module (RFC 4180, 2005) and Apache Arrow, which write the files; numpy.interp for straight lines;
the mean of a cosine over an interval in closed form (sin(b) - sin(a)) / (b - a).
"""

from __future__ import annotations

import csv
import io
import math

import numpy as np
import pyarrow as pa
import pytest
from pyarrow import parquet

from reticula.core import Geo
from reticula.core.context import using
from reticula.core.formats import read_bytes
from reticula.core.graph.time.tables import following_of, log_of
from reticula.core.graph.time.timeline import Timeline
from reticula.core.operators.shared.resources import DiskResources

RNG = np.random.default_rng(7)
WHEN = np.sort(RNG.random(200)) * 50.0
LEVEL = np.cos(WHEN)
NAMES = [f'row {n}, "{n}"' for n in range(200)]


def by_csv() -> Geo:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["when", "level", "name"])
    writer.writerows(zip(WHEN.tolist(), LEVEL.tolist(), NAMES, strict=True))
    return read_bytes("log.csv", out.getvalue().encode())


def by_arrow() -> Geo:
    out = io.BytesIO()
    parquet.write_table(pa.table({"when": WHEN, "level": LEVEL, "name": NAMES}), out)
    return read_bytes("log.parquet", out.getvalue())


@pytest.mark.parametrize("table", [by_csv(), by_arrow()], ids=["csv", "parquet"])
def test_files_of_other_writers_are_read_to_the_bit(table: Geo) -> None:
    points = table.attributes["point"]
    assert np.array_equal(points["when"].values, WHEN)
    assert np.array_equal(points["level"].values, LEVEL)
    assert points["name"].values.tolist() == NAMES


def test_straight_lines_are_those_of_numpy() -> None:
    with using(resources=DiskResources({"log": by_csv()})):
        following = following_of("x", {"table": "log", "time": "when", "value": "level", "start": 0.0})
        log = log_of("x", following)
    clock = Timeline(0, 1300, 24)
    frames = range(0, 1300, 7)
    ours = [following.at(log, clock.names(frame), "real") for frame in frames]
    np.testing.assert_allclose(ours, np.interp(np.array(frames) / 24, WHEN, LEVEL), rtol=0, atol=1e-14)


def test_means_over_frames_come_to_those_of_the_curve_with_the_square_of_the_rows_distance() -> None:
    def largest_error(rows: int) -> float:
        when = np.linspace(0.0, 20.0, rows)
        log = Geo.of(np.zeros((rows, 3)), when=when, level=np.cos(when))
        with using(resources=DiskResources({"log": log})):
            stored = {"table": "log", "time": "when", "value": "level", "start": 0.0, "taken": "mean"}
            following = following_of("x", stored)
            held = log_of("x", following)
        clock = Timeline(0, 40, 2)
        at = [clock.names(frame) for frame in range(1, 39)]
        exact = [(math.sin(one["time"] + 0.25) - math.sin(one["time"] - 0.25)) / 0.5 for one in at]
        ours = [following.at(held, one, "real") for one in at]
        return float(np.abs(np.array(ours) - exact).max())

    coarse, fine = largest_error(201), largest_error(401)
    assert coarse < 1e-3
    assert coarse / fine == pytest.approx(4.0, rel=0.05)
