"""What ``run`` and ``watch`` do: evaluate a graph, or a package's operator, and write what comes out."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from reticula.cli.console import Step
from reticula.cli.frames import frames_in, numbered
from reticula.cli.spreading import Helpers
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.formats import FORMATS, format_of
from reticula.core.geometry import Geo
from reticula.core.graph import Evaluation, Evaluator, split_feed
from reticula.core.graph.editing.values import value_of_text, with_values
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.graph.time.timeline import timeline_of
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages.opened import opened
from reticula.core.packages.package import PackagedShapes
from reticula.core.reports.summary import element_counts

__all__ = ["FilesRead", "Made", "Order", "carry_out"]


@dataclass(frozen=True)
class Order:
    """What somebody asks for on the command line: files by name, values by name, which node and frames, where to."""

    graph: Path
    shapes: dict[str, str]
    values: dict[str, str]
    packages: tuple[str, ...] = ()
    node: str | None = None
    frame: float | None = None
    frames: str | None = None
    out: str | None = None


@dataclass
class Made:
    """A result: where it was written, its counts, the seconds it took, and what was found on the way."""

    node: str
    frame: float | None
    file: str
    counts: dict[str, int]
    seconds: float
    warnings: list[str] = field(default_factory=list)
    evaluation: Evaluation | None = None

    def describe(self) -> dict[str, Any]:
        """Return it as plain data for programs."""
        told = {"node": self.node, "counts": self.counts, "seconds": self.seconds, "warnings": self.warnings}
        return {**told, "frame": self.frame, "file": self.file or None}

    def text(self) -> str:
        """Return it as a line."""
        counts = ", ".join(f"{count:,} {kind}" for kind, count in self.counts.items() if count)
        wrote = f"; wrote {self.file}" if self.file else ""
        return f"{self.node}: {counts or 'empty'}; {self.seconds:.3f} s{wrote}"


Told = Callable[[Made], None]


class FilesRead(dict[Path, tuple[int, int] | None]):
    """The files that were read, each with its time and size just before; None for one that is not there."""

    def add(self, path: Path) -> None:
        """Note a file that is about to be read."""
        self.setdefault(path, _stamp(path))

    def changed(self) -> bool:
        """Whether any of them is another one now."""
        return any(_stamp(path) != stamp for path, stamp in self.items())


def _stamp(path: Path) -> tuple[int, int] | None:
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_mtime_ns, found.st_size


class NotedResources(DiskResources):
    """Files of the disk, noting which of them are asked for."""

    def __init__(self, named: dict[str, str], folder: Path, read: FilesRead) -> None:
        super().__init__(dict(named), folder)
        self.read = read

    def _find(self, name: str) -> Geo | Path:
        found = super()._find(name)
        if isinstance(found, Path):
            self.read.add(found)
        return found


def carry_out(
    order: Order,
    evaluator: Evaluator,
    tell: Told,
    step: Step,
    read: FilesRead | None = None,
    helpers: Helpers | None = None,
) -> str:
    """Evaluate and write every frame asked for, telling each result; return a line about a file of all frames, if one
    was written. ``read`` gets the files that were read; ``helpers`` run heavy parts of loops.

    Raises GraphError for names that do not exist, FormatError and OSError for files.
    """
    read = FilesRead() if read is None else read
    for path in (order.graph, *map(Path, order.shapes.values()), *map(Path, order.packages)):
        read.add(path)
    what = opened(order.graph, packages=map(Path, order.packages), given=order.shapes, node=order.node)
    target = what.node
    given = {what.named(name): value_of_text(value) for name, value in order.values.items()}
    document, dials = with_values(what.document, given)
    inputs = {name: _mesh(file) for name, file in order.shapes.items() if name in what.inputs}
    frames = frames_in(order.frames) if order.frames else [order.frame]
    several = bool(order.frames)
    out = order.out
    together = format_of(out).frames if out and several and "#" not in Path(out).name else None
    files = ["" if together or not out else numbered(out, frame, several=several) for frame in frames]
    made: list[tuple[float, Geo]] = []
    named = {name: file for name, file in order.shapes.items() if name not in inputs}
    shapes: Any = NotedResources(named, order.graph.parent, read)
    with ExitStack() as stack:
        if helpers is not None:
            there = {name: found for name, found in what.shapes.items() if found is not None}
            helpers.shapes = {**there, **{name: Path(file) for name, file in named.items()}}
            stack.enter_context(using(spread=helpers))
        for package in what.packages:
            stack.enter_context(using(library=LayeredLibrary(package)))
            shapes = PackagedShapes(package, shapes)
        for number, (frame, file) in enumerate(zip(frames, files, strict=True)):

            def on_progress(done: int, total: int, node: str, number: int = number) -> None:
                step(number + done / max(total, 1), len(frames), node)

            done = evaluator.evaluate(
                document,
                dials=dials,
                frame=frame,
                targets=[target],
                inputs=inputs,
                shapes=shapes,
                on_progress=on_progress,
            )
            tell(_written(done, target, frame, file))
            if together:
                made.append((frame or 0.0, done.geo(target)))
    if not together or not out:
        return ""
    Path(out).write_bytes(together(made, timeline_of(document).rate))
    return f"wrote {len(made):,} frames to {out}"


def _written(done: Evaluation, target: str, frame: float | None, file: str) -> Made:
    """Write one result and return what is to be told of it."""
    warnings = []
    for name, result in done.nodes.items():
        warnings += [f"{name}: {remark.text}" for remark in result.notes if remark.level == "warning"]
        if result.state == "failed" and result.error and name != split_feed(target)[0]:
            warnings.append(f"{name}: {result.error['message']}")
    try:
        geo = done.geo(target)
    except GraphError as error:
        raise GraphError("\n".join([*warnings, str(error)])) from None
    if file:
        geo.write(file)
    seconds = sum(result.seconds for result in done.nodes.values())
    return Made(target, frame, file, element_counts(geo), seconds, warnings, done)


def _mesh(path: str) -> Geo:
    if not Path(path).is_file():
        raise GraphError(f"there is no mesh file '{path}'; the formats are {', '.join(FORMATS)}")
    return Geo.read(path)
