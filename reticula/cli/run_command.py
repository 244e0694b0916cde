"""``reticula run``: a graph, or the operator of a package, on meshes from files."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import progress, warn
from reticula.cli.many_options import WORKERS
from reticula.cli.options import FRAME, JSON, NODE, PACKAGES, SET, Command, shapes_option
from reticula.cli.running import Made, Order, carry_out
from reticula.cli.spreading import Helpers
from reticula.core.graph import Evaluation, Evaluator
from reticula.core.spans import chrome_trace, recording

__all__ = ["helpers_of", "order_of", "ordered", "run_command", "tell"]

_OPTIONS = (
    click.argument("graph", type=click.Path(dir_okay=False, path_type=Path)),
    shapes_option("Mesh for an input or a project shape."),
    SET,
    PACKAGES,
    NODE,
    FRAME,
    click.option("--frames", metavar="FIRST:LAST", help="Several frames; #### in --out becomes the number of each."),
    click.option("--out", metavar="FILE", help="Where to write; the ending says the format."),
    *WORKERS,
)


def ordered(command: Command) -> Command:
    """Give a command the arguments that make up an order."""
    for option in reversed(_OPTIONS):
        command = option(command)
    return command


def order_of(**given: Any) -> Order:
    """Return the order that the arguments make up; ends with code 2 if two of them exclude each other."""
    if given["frame"] is not None and given["frames"]:
        raise click.UsageError("--frame and --frames exclude each other")
    return Order(**given)


@contextmanager
def helpers_of(given: dict[str, Any]) -> Iterator[Helpers]:
    """Take what says where heavy parts of loops are run out of the arguments, and give who runs them."""
    helpers = Helpers(given.pop("cluster"), given.pop("store"), given.pop("workers"))
    try:
        yield helpers
    finally:
        helpers.close()


def tell(made: Made) -> None:
    """Print a result, and on the error output what was found on the way."""
    for text in made.warnings:
        warn(text)
    print(made.text(), flush=True)


@click.command("run")
@ordered
@click.option("--profile", is_flag=True, help="Say where the time went, the dearest node first.")
@click.option("--trace", metavar="FILE", help="Write that as a trace, which browsers' profilers open.")
@JSON
def run_command(profile: bool, trace: str | None, as_json: bool, **given: Any) -> None:
    """Evaluate GRAPH (a document, JSON, or a package, zip) and write the result."""
    results: list[Made] = []

    def told(made: Made) -> None:
        results.append(made)
        if not as_json:
            tell(made)
        if profile and made.evaluation:
            print(profile_text(made.evaluation))

    with helpers_of(given) as helpers, recording(traced=True) as spans:
        order = order_of(**given)
        with progress(order.graph.name) as step:
            line = carry_out(order, Evaluator(), told, step, helpers=helpers)
    if as_json:
        print(json.dumps([made.describe() for made in results]))
    elif line:
        print(line)
    if trace:
        Path(trace).write_text(json.dumps(chrome_trace(spans.trace or [])), "utf-8")


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
