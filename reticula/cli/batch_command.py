"""``reticula batch``: one graph over many files and the rows of a table."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from reticula.cli.many_options import COUNTED_HELP, named, saying, workers_options
from reticula.cli.options import FRAME, JSON, NODE, PACKAGES, SET, pairs, shapes_option
from reticula.core.graph.editing.values import value_of_text
from reticula.many.choices import SPREADS

__all__ = ["batch_command"]


@click.command("batch")
@click.argument("graph", type=click.Path(dir_okay=False, exists=True, path_type=Path))
@shapes_option("Files for an input or a project shape; a pattern, such as 'scan=scans/*.ply', gives one result each.")
@click.option(
    "--table",
    type=click.Path(dir_okay=False, path_type=Path),
    metavar="FILE",
    help="CSV or Parquet: a row for each result, a column for each dial, NODE.PARAMETER, input, or 'name'.",
)
@SET
@click.option(
    "--vary",
    multiple=True,
    metavar="NAME=VALUES",
    callback=pairs,
    help="Several values of a dial or NODE.PARAMETER: a,b,c; from:to:how many; uniform(a,b), normal(m,s), oneof(a,b).",
)
@click.option("--count", type=click.IntRange(min=1), default=1, help="How many draws of uniform, normal and oneof.")
@click.option(
    "--spread",
    type=click.Choice(SPREADS),
    default="sobol",
    show_default=True,
    help="How draws lie.",
)
@click.option("--seed", type=int, default=0, help="Another seed draws others.")
@click.option("--out", default="", metavar="FILE", help="Where each goes: 'out/{name}-{ridge_height}.glb'; {row} too.")
@click.option(
    "--note",
    "numbers",
    multiple=True,
    metavar="NAME[=FORMULA]",
    help=f"Note a number of each: {COUNTED_HELP}.",
)
@NODE
@FRAME
@PACKAGES
@click.option("--manifest", metavar="FILE", help="Where the list of results goes, without its ending.")
@workers_options
@JSON
def batch_command(
    graph: Path,
    shapes: dict[str, str],
    values: dict[str, str],
    numbers: tuple[str, ...],
    packages: tuple[str, ...],
    seconds: float,
    as_json: bool,
    **given: Any,
) -> int:
    """Evaluate GRAPH once for every combination of files and rows of a table, and write every result.

    Called again it makes only what is missing. Ctrl-C stops after what is being made, twice at once; what is
    done is kept.
    """
    from reticula.many.batch import run_batch
    from reticula.workers.tickets import Limits

    with saying(graph.name) as (told, stop):
        made = run_batch(
            graph,
            inputs=shapes,
            values={name: value_of_text(value) for name, value in values.items()},
            numbers=named(numbers),
            packages=packages,
            limits=Limits(seconds=seconds),
            on_entry=told,
            should_stop=stop.is_set,
            **given,
        )
    failed, done = len(made.failed), len(made.entries)
    if as_json:
        print(json.dumps({"entries": made.entries, "again": made.again, "tables": [str(one) for one in made.tables]}))
    else:
        parts = [f"{done - failed - made.again:,} made", *([f"{made.again:,} made before"] if made.again else [])]
        print(", ".join([*parts, *([f"{failed:,} failed"] if failed else [])]) + f"; see {made.tables[1]}")
    return 130 if stop.is_set() else 1 if failed else 0
