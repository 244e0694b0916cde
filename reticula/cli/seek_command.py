"""``reticula seek``: the values of a graph turned until formulas are best."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import warn
from reticula.cli.many_options import COUNTED_HELP, named, saying, workers_options
from reticula.cli.options import FRAME, JSON, NODE, PACKAGES, SET, pairs, shapes_option
from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import value_of_text

__all__ = ["seek_command"]

SHOWN = 12
"""How many of the best are printed; the manifest has all tries."""


@click.command("seek")
@click.argument("graph", type=click.Path(dir_okay=False, exists=True, path_type=Path))
@shapes_option("A file for an input or a project shape: 'scan=scans/bay.ply'.")
@SET
@click.option(
    "--vary",
    multiple=True,
    required=True,
    metavar="NAME=VALUES",
    callback=pairs,
    help="What a dial or NODE.PARAMETER is turned to: uniform(a,b); a,b,c; from:to:how many.",
)
@click.option("--smallest", multiple=True, metavar="FORMULA", help="What is to be as small as can be.")
@click.option("--largest", multiple=True, metavar="FORMULA", help="What is to be as large as can be.")
@click.option("--at", "nearest", multiple=True, metavar="FORMULA=NUMBER", help="What is to be at a number.")
@click.option("--where", "conditions", multiple=True, metavar="FORMULA", help="What must hold: 'volume < 0.002'.")
@click.option("--tries", type=click.IntRange(min=1), default=96, show_default=True, help="How many are made at most.")
@click.option("--seed", type=click.IntRange(min=0), default=0, help="Another seed makes other tries.")
@click.option("--out", default="", metavar="FILE", help="Where the best ones are written; with {row} for several.")
@click.option(
    "--note",
    "numbers",
    multiple=True,
    metavar="NAME[=FORMULA]",
    help=f"Note a number of each, for formulas to read: {COUNTED_HELP}.",
)
@NODE
@FRAME
@PACKAGES
@click.option("--manifest", default="seek", show_default=True, help="Where the list of tries goes, without its ending.")
@workers_options
@JSON
def seek_command(
    graph: Path,
    shapes: dict[str, str],
    values: dict[str, str],
    numbers: tuple[str, ...],
    smallest: tuple[str, ...],
    largest: tuple[str, ...],
    nearest: tuple[str, ...],
    seconds: float,
    as_json: bool,
    **given: Any,
) -> int:
    """Turn values of GRAPH until formulas are best.

    Formulas read what is turned, what is noted, points, edges, faces, curves, instances, area, volume and defects by
    name; others are on the whole: 'geo.high.y'. With several aims the best are those that no other one beats: as
    good in every aim, and better in one. Called again it makes only tries that are missing. Ctrl-C stops after what
    is being made; the best by then is said.
    """
    from reticula.many.aims import Aim
    from reticula.many.seeking import run_seek
    from reticula.workers.tickets import Limits

    aims = [Aim(text) for text in smallest] + [Aim(text, "largest") for text in largest]
    aims += [_aim_at(text) for text in nearest]
    with saying(graph.name) as (told, stop):
        found = run_seek(
            graph,
            aims=aims,
            inputs=shapes,
            values={name: value_of_text(value) for name, value in values.items()},
            numbers=named(numbers),
            limits=Limits(seconds=seconds),
            on_entry=told,
            should_stop=stop.is_set,
            **given,
        )
    if as_json:
        tables = [str(one) for one in found.tables]
        print(json.dumps({"best": found.best, "entries": found.entries, "again": found.again, "tables": tables}))
    else:
        for one in found.best[:SHOWN]:
            said = {**one["values"], **one["numbers"]}
            print(f"try {one['row']}: " + ", ".join(f"{name} {_short(value)}" for name, value in said.items()))
        if len(found.best) > SHOWN:
            print(f"and {len(found.best) - SHOWN} more")
        print(f"{len(found.entries):,} tries, {len(found.failed):,} failed; see {found.tables[1]}")
    if not found.best:
        warn("No try could be measured.")
    return 130 if stop.is_set() else 0 if found.best else 1


def _aim_at(text: str) -> Any:
    from reticula.many.aims import Aim

    formula, _, number = text.rpartition("=")
    try:
        return Aim(formula, "at", float(number))
    except ValueError:
        raise GraphError(f"--at '{text}': say it as FORMULA=NUMBER") from None


def _short(value: Any) -> str:
    return f"{value:.6g}" if isinstance(value, float) else str(value)
