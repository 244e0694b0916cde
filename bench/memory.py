"""The most memory that each operator takes on a million triangles, beside what it is given and what it makes.

Every operator runs in a process of its own with its defaults (lengths at the scale of a face), after a first run on a
small shape that loads and compiles what it needs. The peak is the kernel's own count of resident pages (``VmHWM`` of
proc(5), started anew by writing 5 to ``clear_refs``) over what was there before, and the bytes of what it is given.
"""

from __future__ import annotations

import gc
import json
import subprocess
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

from bench.measure import Row
from bench.shapes import anew, bumpy_ball
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.graph.evaluation.held_memory import held_arrays
from reticula.core.memory import give_back
from reticula.core.operators import OPERATORS
from reticula.core.operators.declaration.operator import Operator

__all__ = ["main", "rows"]

FREQUENCY = 224
"""A geodesic sphere of 1,003,520 triangles."""
SECONDS = 120
LEAST = 16e6
"""Bytes below which what is given and made is too little to compare with."""
LEFT_OUT = {"sources", "operators of your own", "scripting"}
LENGTHS = ("m", "m²", "m³")


def rows() -> Iterator[Row]:
    """Yield the peak of each operator that runs with its defaults; says on the way which do not."""
    for name, entry in OPERATORS.items():
        if entry.family in LEFT_OUT or not entry.inputs:
            continue
        command = [sys.executable, "-m", "bench.memory", name]
        try:
            done = subprocess.run(command, capture_output=True, text=True, timeout=SECONDS, check=True)
        except (subprocess.TimeoutExpired, subprocess.CalledProcessError) as error:
            print(
                f"{name}: {'takes too long' if isinstance(error, subprocess.TimeoutExpired) else error.stderr[-200:]}"
            )
            continue
        told = json.loads(done.stdout)
        if "untold" in told:
            print(f"{name}: {told['untold']}")
            continue
        size, peak, least = f"{told['faces']:,} triangles", told["peak"], told["given"] + told["made"]
        if least > LEAST:
            yield Row(f"memory: {entry.label}", size, peak / 1e6, "given and made", least / 1e6, peak / least, "MB")


def main(name: str) -> None:
    """Run one operator, and print what it took as JSON."""
    entry = OPERATORS[name]
    with collecting():
        _run(entry, _ball(20))
        geo = _ball(FREQUENCY)
        given = _bytes([geo])
        gc.collect()
        give_back()
        Path("/proc/self/clear_refs").write_text("5")
        before = _status("VmRSS")
        made = _run(entry, geo)
        peak = _status("VmHWM") - before + given
    told: dict[str, Any] = {"untold": made} if isinstance(made, str) else {"made": _bytes(made), "peak": peak}
    print(json.dumps({"given": given, "faces": geo.topology.face_count, **told}))


def _run(entry: Operator, geo: Geo) -> list[Geo] | str:
    """Run an operator; what it refuses is returned in words."""
    small = ops.transform(ops.geodesic_sphere(frequency=4), scale=(0.7, 0.8, 0.9), move=(0.13, 0.21, 0.07))
    inputs: list[Any] = [geo] + [small] * (len(entry.inputs) - 1)
    wanted = [[one] if wish.many else one for one, wish in zip(inputs, entry.inputs, strict=True)]
    face = 4 / np.sqrt(geo.topology.face_count)
    values = {}
    for parameter in entry.parameters:
        unit, default = getattr(parameter, "unit", ""), parameter.default
        if unit in LENGTHS and isinstance(default, float) and default:
            values[parameter.name] = default * face ** (LENGTHS.index(unit) + 1)
    try:
        return list(entry.run(wanted, entry.check(values)))
    except Exception as error:
        return f"{type(error).__name__}: {error}"


def _ball(frequency: int) -> Geo:
    """A bumpy ball with a value and a group, of which nothing is known yet."""
    ball = bumpy_ball(frequency)
    ball = ball.with_attribute("point", "heat", np.array(ball.positions[:, 1]))
    return anew(ball.with_attribute("face", "half", np.arange(ball.topology.face_count) % 2 == 0))


def _bytes(geos: Iterable[Geo]) -> int:
    found: dict[int, int] = {}
    for geo in geos:
        found |= held_arrays(geo)
    return sum(found.values())


def _status(what: str) -> int:
    """Return a count of /proc/self/status in bytes."""
    line = next(one for one in Path("/proc/self/status").read_text().splitlines() if one.startswith(what + ":"))
    return int(line.split()[1]) * 1024


if __name__ == "__main__":
    main(sys.argv[1])
