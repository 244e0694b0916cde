"""``reticula run``: a graph, or the operator of a package, on meshes from files."""

from __future__ import annotations

import argparse
import json
import sys
from contextlib import ExitStack
from pathlib import Path
from typing import Any

from reticula.cli.frames import frames_in, numbered
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.formats import FORMATS, format_of
from reticula.core.geometry import Geo
from reticula.core.graph import Evaluation, Evaluator, check_structure, split_feed
from reticula.core.graph.structure.document import empty_document
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.graph.time.timeline import timeline_of
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import Package, load_package
from reticula.core.packages.package import PackagedShapes
from reticula.core.reports.summary import element_counts
from reticula.core.spans import chrome_trace, recording

__all__ = ["add_run", "pair", "read_document"]


def add_run(commands: Any) -> None:
    """Declare the command."""
    run = commands.add_parser("run", help="evaluate a graph, or a package's operator, and write the result")
    run.add_argument("graph", help="graph document (JSON) or package (zip)")
    run.add_argument(
        "--in",
        dest="shapes",
        action="append",
        default=[],
        metavar="NAME=FILE",
        help="mesh for an input or a project shape",
    )
    run.add_argument(
        "--set", dest="values", action="append", default=[], metavar="NAME=VALUE", help="a dial, or NODE.PARAMETER"
    )
    run.add_argument(
        "--package",
        dest="packages",
        action="append",
        default=[],
        metavar="FILE",
        help="published operators that the graph uses",
    )
    run.add_argument("--node", help="whose result to write (default: the graph's result); with a package, which output")
    when = run.add_mutually_exclusive_group()
    when.add_argument("--frame", type=float, help="the frame to evaluate at (default: the graph's first one)")
    when.add_argument("--frames", metavar="FIRST:LAST", help="several frames; #### in --out becomes the number of each")
    run.add_argument("--out", metavar="FILE", help="where to write; the ending says the format")
    run.add_argument("--profile", action="store_true", help="say where the time went, the dearest node first")
    run.add_argument("--trace", metavar="FILE", help="write that as a trace, which browsers' profilers open")
    run.set_defaults(function=_run)


def pair(text: str, option: str) -> tuple[str, str]:
    """Return the two sides of NAME=VALUE; raise GraphError if there are none."""
    name, equals, value = text.partition("=")
    if not equals or not name:
        raise GraphError(f"{option} takes NAME=VALUE, not '{text}'")
    return name, value


def _value(text: str) -> Any:
    try:
        return json.loads(text)
    except ValueError:
        return text


def _run(given: argparse.Namespace) -> int:
    path = Path(given.graph)
    named = dict(pair(text, "--in") for text in given.shapes)
    packages = [load_package(file) for file in given.packages]
    if path.suffix.lower() == ".zip":
        packages.append(load_package(path))
        document, inputs = _document_of(packages[-1], named, given.node)
        target = "operator" + (f":{given.node}" if given.node else "")
        values = [f"operator.{text}" for text in given.values]
    else:
        document, inputs, values = read_document(path), {}, given.values
        for entry in document.get("inputs", []):
            if entry["name"] in named:
                inputs[entry["name"]] = _mesh(named.pop(entry["name"]))
        target = (
            given.node or document.get("result") or document.get("looking_at") or next(reversed(document["nodes"]), "")
        )
    dials = _set(document, values)
    if not target or split_feed(target)[0] not in document["nodes"]:
        raise GraphError(f"there is no node '{target}'; there are {', '.join(document['nodes']) or 'none'}")
    shapes: Any = DiskResources(named, path.parent)
    frames = frames_in(given.frames) if given.frames else [given.frame]
    several = bool(given.frames)
    together = given.out and several and "#" not in Path(given.out).name and format_of(given.out).frames
    files = ["" if together or not given.out else numbered(given.out, frame, several=several) for frame in frames]
    made: list[tuple[float, Geo]] = []
    evaluator = Evaluator()
    with ExitStack() as stack:
        for package in packages:
            stack.enter_context(using(library=LayeredLibrary(package)))
            shapes = PackagedShapes(package, shapes)
        spans = stack.enter_context(recording(traced=True))
        for frame, file in zip(frames, files, strict=True):
            done = evaluator.evaluate(
                document, dials=dials, frame=frame, targets=[target], inputs=inputs, shapes=shapes
            )
            _tell(done, target, file)
            if together:
                made.append((frame or 0.0, done.geo(target)))
            if given.profile:
                print(profile_text(done))
    if together:
        per_second = timeline_of(document).rate
        Path(given.out).write_bytes(together(made, per_second))
        print(f"wrote {len(made):,} frames to {given.out}")
    if given.trace:
        Path(given.trace).write_text(json.dumps(chrome_trace(spans.trace or [])), "utf-8")
    return 0


def _tell(done: Evaluation, target: str, file: str) -> None:
    """Write one result, and say what it is and what was found."""
    for name, result in done.nodes.items():
        for remark in result.notes:
            if remark.level == "warning":
                print(f"{name}: {remark.text}", file=sys.stderr)
        if result.state == "failed" and result.error and name != split_feed(target)[0]:
            print(f"{name}: {result.error['message']}", file=sys.stderr)
    geo = done.geo(target)
    if file:
        geo.write(file)
    counts = ", ".join(f"{count:,} {kind}" for kind, count in element_counts(geo).items() if count)
    seconds = sum(result.seconds for result in done.nodes.values())
    print(f"{target}: {counts or 'empty'}; {seconds:.3f} s" + (f"; wrote {file}" if file else ""))


def profile_text(done: Evaluation) -> str:
    """Return the nodes by how long they took, each with what its time went into, in ms."""
    rows = sorted(done.nodes.items(), key=lambda entry: -entry[1].seconds)
    width = max((len(name) for name, _ in rows), default=0)
    return "\n".join(
        f"{result.seconds * 1000:10.1f} ms  {name:{width}}  "
        + ", ".join(
            f"{part} {seconds * 1000:.1f}"
            for part, seconds in sorted(result.parts.items(), key=lambda entry: -entry[1])
        )
        for name, result in rows
    )


def read_document(path: Path) -> dict[str, Any]:
    """Read a graph document; raise GraphError if it is not JSON or not a graph."""
    try:
        document: dict[str, Any] = json.loads(path.read_text("utf-8"))
    except ValueError as error:
        raise GraphError(f"{path} is not JSON: {error}") from None
    check_structure(document)
    return document


def _mesh(path: str) -> Geo:
    if not Path(path).is_file():
        raise GraphError(f"there is no mesh file '{path}'; the formats are {', '.join(FORMATS)}")
    return Geo.read(path)


def _document_of(package: Package, named: dict[str, str], output: str | None) -> tuple[dict[str, Any], dict[str, Geo]]:
    """Return a graph of the package's operator alone, with an input node for each of its inputs that is given."""
    chosen = package.operator
    known = {port.name: port for port in chosen.inputs}
    inputs = {name: _mesh(named.pop(name)) for name in list(named) if name in known}
    missing = [name for name, port in known.items() if not port.optional and name not in inputs]
    if missing:
        raise GraphError(f"{chosen.label} needs a mesh for '{missing[0]}': give it with --in {missing[0]}=FILE")
    if output and output not in [port.name for port in chosen.outputs]:
        raise GraphError(
            f"{chosen.label} has no output '{output}'; it has {', '.join(port.name for port in chosen.outputs)}"
        )
    nodes: dict[str, Any] = {f"in_{name}": {"operator": "input", "parameters": {"name": name}} for name in inputs}
    nodes["operator"] = {"operator": package.main, "inputs": {name: [f"in_{name}"] for name in inputs}}
    return {**empty_document(chosen.label), "inputs": [{"name": name} for name in inputs], "nodes": nodes}, inputs


def _set(document: dict[str, Any], values: list[str]) -> dict[str, Any]:
    """Set parameters of nodes in the document; returns the values of its dials."""
    dials = {}
    for text in values:
        name, value = pair(text, "--set")
        node, dot, parameter = name.partition(".")
        if not dot:
            dials[name] = _value(value)
        elif node in document["nodes"]:
            document["nodes"][node].setdefault("parameters", {})[parameter] = _value(value)
        else:
            raise GraphError(f"there is no node '{node}'; there are {', '.join(document['nodes'])}")
    return dials
