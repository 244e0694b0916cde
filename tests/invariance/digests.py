"""Digests of what the product computes: every demo graph, every operator, files and scripts.

``python -m tests.invariance.digests`` writes ``digests.json`` anew; do that only in a commit that means to change
results. An entry holds the exact digest, valid on machines of the same make, and for other machines a hash of all that
is not a number with a fraction, and a few sums of what is.
"""

from __future__ import annotations

import hashlib
import json
import os
import platform
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numba
import numpy as np
import scipy

from demo.operators import HERE, tile_library
from reticula.core import Geo, load_package, ops, run_script
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.formats import WRITTEN, write_bytes
from reticula.core.geometry import KINDS, Topology
from reticula.core.graph import Evaluator, check_structure
from reticula.core.language.compiled import builder
from reticula.core.operators import OPERATORS, Operator
from tests.helpers import bumpy

__all__ = ["STORED", "all_digests", "machine"]

STORED = Path(__file__).with_name("digests.json")
Entry = dict[str, Any]
SCRIPT = """
other: geometry
reach: number(0, 2) = 0.4
near = other.near(position, reach, most=8)
total = 0.0
for found in near:
    total += length(found.position - position)
here.position = position + normal * (0.1 * sin(total) + 0.02 * noise(position * 3, 2))
here.touched = len(near) > 2
"""


def machine() -> str:
    """Return what the last bits of numbers may hang on: processor, and the libraries that compute."""
    info = Path("/proc/cpuinfo").read_text() if Path("/proc/cpuinfo").exists() else ""
    model = next((line.partition(":")[2].strip() for line in info.splitlines() if "model name" in line), "")
    flags = next((line for line in info.splitlines() if line.startswith(("flags", "Features"))), "")
    text = f"{platform.machine()} {model} {flags} {np.__version__} {numba.__version__} {scipy.__version__}"
    return hashlib.blake2b(text.encode(), digest_size=8).hexdigest()


def entry_of(geo: Geo) -> Entry:
    """Return the digest of a geometry, its names included, and what is compared where last bits differ."""
    shape = geo.topology
    plain, sums = hashlib.blake2b(digest_size=8), []
    for array in (shape.face_start, shape.corner_point, shape.curve_start, shape.curve_point, shape.curve_closed):
        plain.update(array.tobytes() + b"|")
    names = hashlib.blake2b(digest_size=8)
    for kind in ("point", "face", "curve", "instance"):
        names.update(geo.identity(kind).tobytes())
    for kind in KINDS:
        for name, found in sorted(geo.attributes[kind].items()):
            if found.values.dtype.kind == "f":
                flat = found.values.reshape(-1)
                weights = np.cos(np.arange(len(flat)) * 0.7)
                sums.append(float(np.nan_to_num(flat) @ weights) / max(1.0, float(np.abs(weights).sum())))
            else:
                plain.update(f"{kind}/{name}/{found.type}/{found.values.tolist()}".encode())
    return {"digest": geo.digest, "names": names.hexdigest(), "plain": plain.hexdigest(), "sums": sums}


def _run(made: Callable[[], Any]) -> Entry:
    """Return the entry of what is made, or of the error in words."""
    with collecting() as notes:
        try:
            result = made()
        except ReticulaError as error:
            return {"error": f"{type(error).__name__}: {error}"}
    told = hashlib.blake2b("\n".join(note.text for note in notes).encode(), digest_size=8).hexdigest()
    outputs = result if isinstance(result, tuple) else (result,)
    return {"notes": told, "outputs": [entry_of(geo) for geo in outputs]}


def _labelled() -> Geo:
    """A cut, closed shape with triangles and quads and something of every type on most kinds."""
    geo = ops.box(size=(1, 2, 1), cells=(2, 3, 2))
    geo = ops.extrude(geo, where="position.y > 0.6", distance=0.3, inset=0.05)
    for kind in KINDS:
        count = geo.topology.count(kind)
        if kind == "instance":
            continue
        geo = geo.with_attribute(kind, f"{kind}_number", np.sin(np.arange(count)))
        geo = geo.with_attribute(kind, f"{kind}_word", np.array([f"w{i % 5}" for i in range(count)]))
        geo = geo.with_attribute(kind, f"{kind}_mark", np.arange(count) % 3 == 0)
        geo = geo.with_attribute(kind, f"{kind}_list", [[i] for i in range(count)], "integer list")
    return geo


def _mixed() -> Geo:
    """Faces of several sizes, a loose point, an open and a closed curve."""
    positions = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [2, 0, 0], [3, 0.5, 0], [2, 1, 0], [0.5, 2, 0], [9, 9, 9]]
    faces = [0, 1, 2, 3, 1, 4, 5, 6, 2, 3, 2, 7]
    return Geo.of(positions, Topology(9, [0, 4, 9, 12], faces, [0, 3, 6], [0, 1, 4, 3, 7, 2], [False, True]))


def _variants(entry: Operator) -> Iterator[tuple[str, dict[str, Any]]]:
    """Yield the defaults, each option of each choice, and each toggle turned."""
    yield "defaults", {}
    for parameter in entry.parameters:
        options = getattr(parameter, "options", {})
        for option in options:
            if option != parameter.default:
                yield f"{parameter.name}={option}", {parameter.name: option}
        if parameter.widget == "toggle":
            yield f"{parameter.name}={not parameter.default}", {parameter.name: not parameter.default}


def _operators() -> Iterator[tuple[str, Entry]]:
    tool = ops.transform(bumpy(3), move=(0.3, 0.4, 0.1), scale=(0.8, 0.8, 0.8))
    shapes = {"box": _labelled(), "ball": bumpy(1), "mixed": _mixed()}
    for name, entry in OPERATORS.items():
        if entry.family in ("sources", "operators of your own"):
            continue
        for variant, values in _variants(entry):
            for shape, geo in shapes.items() if entry.inputs else [("", Geo.empty())]:
                inputs = [
                    [geo, tool] if given.many else geo if i == 0 else tool for i, given in enumerate(entry.inputs)
                ]
                yield f"{name}/{shape}/{variant}", _run(lambda e=entry, i=inputs, v=values: e.run(i, e.check(v)))


def _graphs() -> Iterator[tuple[str, Entry]]:
    library, shapes = tile_library()
    for path in sorted(HERE.glob("*.json")):
        document = check_structure(json.loads(path.read_text()))
        done = Evaluator().evaluate(document, targets=[*document["nodes"]], shapes=shapes, operators=library)
        for node, result in done.nodes.items():
            made: Entry = {"notes": [f"{note.level}: {note.text}" for note in result.notes]}
            with suppress(ReticulaError, KeyError):
                made["outputs"] = [entry_of(done.geo(node))]
            yield f"demo/{path.stem}/{node}", made
    for package in sorted((HERE / "packages").glob("*.zip")):
        yield f"package/{package.stem}", _run(lambda p=package: load_package(p)(Geo.read(HERE / "survey_scan.ply")))


def _files() -> Iterator[tuple[str, Entry]]:
    for name, geo in {"box": _labelled(), "mixed": _mixed()}.items():
        for ending, chosen in WRITTEN.items():
            if chosen.library:  # Its bytes hold dates and names of its own.
                continue
            for encoding in chosen.options.get("encoding", ("",)):
                with collecting():
                    data = write_bytes(geo, f"a.{ending}", **({"encoding": encoding} if encoding else {}))
                digest = hashlib.blake2b(data, digest_size=8).hexdigest()
                yield f"file/{name}.{ending}/{encoding}", {"bytes": digest, "size": len(data)}


def _scripts() -> Iterator[tuple[str, Entry]]:
    for backend in ("vector", "compiled"):
        inputs = {"other": ops.scatter(bumpy(2), total=80)}
        run = lambda b=backend, i=inputs: run_script(bumpy(1), SCRIPT, each="point", inputs=i, backend=b)  # noqa: E731
        yield f"script/{backend}", _run(run)


@contextmanager
def _without_built_kernels() -> Iterator[None]:
    """Keep ``auto`` on the vector back end: a kernel that happens to be built gives other last bits."""
    kept, builder().loaded = builder().loaded, OrderedDict()
    enabled, builder().enabled = builder().enabled, False
    folder = os.environ.get("RETICULA_KERNELS")
    with TemporaryDirectory() as empty:
        os.environ["RETICULA_KERNELS"] = empty
        try:
            yield
        finally:
            del os.environ["RETICULA_KERNELS"]
            if folder is not None:
                os.environ["RETICULA_KERNELS"] = folder
            builder().loaded, builder().enabled = kept, enabled


def all_digests() -> dict[str, Entry]:
    """Return an entry per result, in a fixed order."""
    with _without_built_kernels():
        made = {key: entry for part in (_operators, _graphs, _files) for key, entry in part()}
    return made | dict(_scripts())


def _packed(entries: dict[str, Entry]) -> str:
    lines = [f"{json.dumps(key)}: {json.dumps(entry)}" for key, entry in entries.items()]
    return "{" + f'"machine": "{machine()}", "entries": {{\n' + ",\n".join(lines) + "\n}}\n"


if __name__ == "__main__":
    STORED.write_text(_packed(all_digests()))
    print(f"wrote {STORED}")
