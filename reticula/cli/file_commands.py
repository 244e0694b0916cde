"""``reticula convert`` and ``reticula info``: mesh files from one format to another, and what is in one."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import progress, warn
from reticula.cli.options import ERROR, JSON, pairs
from reticula.core.context import using
from reticula.core.diagnostics import collecting
from reticula.core.formats import format_of, read_file
from reticula.core.geometry import KINDS, Geo
from reticula.core.geometry.validation.checks import find_defects, find_remarks
from reticula.core.reports.summary import describe_geo, element_counts

__all__ = ["convert_command", "info_command"]


@click.command("convert")
@click.argument("source", type=click.Path(dir_okay=False))
@click.argument("target", type=click.Path(dir_okay=False))
@click.option(
    "--option",
    "options",
    multiple=True,
    metavar="NAME=WORD",
    callback=pairs,
    help="An option of the format that is written, e.g. encoding=ascii.",
)
@ERROR
@JSON
def convert_command(source: str, target: str, options: dict[str, str], error: float, as_json: bool) -> None:
    """Read a mesh file and write it in another format, which the ending of TARGET says."""
    format_of(target)
    with collecting() as notes, progress(f"{Path(source).name} → {Path(target).name}") as step:
        with using(on_read=lambda share: step(0.6 * share, 1, "reading")):
            geo = read_file(source, error=error)
        step(0.6, 1, "writing")
        geo.write(target, **options)
    size = Path(target).stat().st_size
    told = {"file": target, "bytes": size, "counts": element_counts(geo), "notes": [one.text for one in notes]}
    if as_json:
        print(json.dumps(told))
        return
    for one in notes:
        warn(one.text)
    print(f"{target}: {repr(geo)[5:-1]}; {size:,} bytes")


@click.command("info")
@click.argument("file", type=click.Path(dir_okay=False))
@click.option("--check", is_flag=True, help="End with code 3 if there is a defect.")
@ERROR
@JSON
def info_command(file: str, check: bool, error: float, as_json: bool) -> int:
    """Say what a mesh file holds, and what is wrong with it."""
    with collecting() as notes, progress(Path(file).name) as step:
        with using(on_read=lambda share: step(0.5 * share, 1, "reading")):
            geo = read_file(file, error=error)
        step(0.5, 1, "checking")
        found = [
            {"name": one.name, "kind": one.kind, "count": len(one.elements), "level": level}
            for level, checks in (("defect", find_defects(geo)), ("remark", find_remarks(geo)))
            for one in checks
        ]
    told = {**describe_geo(geo), "checks": found, "notes": [one.text for one in notes]}
    print(json.dumps(told, indent=2) if as_json else info_text(geo, told))
    return 3 if check and any(one["level"] == "defect" for one in found) else 0


def info_text(geo: Geo, told: dict[str, Any]) -> str:
    """Return what is in a geometry as lines of plain text."""
    counts = ", ".join(f"{count:,} {kind}" for kind, count in told["counts"].items() if count) or "nothing"
    lines = [counts]
    if geo.topology.point_count:
        lower, upper = told["bounds"]
        size = " × ".join(f"{b - a:.6g}" for a, b in zip(lower, upper, strict=True))
        lines.append(f"{size} m, from {_place(lower)} to {_place(upper)}; {told['pieces']:,} pieces")
    for kind in KINDS:
        for entry in told["attributes"][kind]:
            if entry["name"] == "position":
                continue
            reach = f", {entry['members']:,} members" if "members" in entry else ""
            if "low" in entry:
                reach = f", {_place(entry['low'])} to {_place(entry['high'])}"
            lines.append(f"  {kind} {entry['name']}: {entry['type']}{reach}")
    lines += [f"{one['level']}: {one['count']:,} {one['name']}" for one in told["checks"]]
    lines += [f"note: {text}" for text in told["notes"]]
    return "\n".join(lines)


def _place(values: list[float]) -> str:
    return " ".join(f"{value:.6g}" for value in values)
