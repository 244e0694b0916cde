"""``reticula convert`` and ``reticula info``: mesh files from one format to another, and what is in one."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from reticula.cli.run_command import pair
from reticula.core.diagnostics import collecting
from reticula.core.formats import FORMATS, format_of, read_file
from reticula.core.geometry import KINDS, Geo
from reticula.core.geometry.validation.checks import find_defects, find_remarks
from reticula.core.reports.summary import describe_geo

__all__ = ["add_file_commands"]


def add_file_commands(commands: Any) -> None:
    """Declare both commands."""
    convert = commands.add_parser("convert", help="read a mesh file and write it in another format")
    convert.add_argument("source", help=f"the file to read: {', '.join('.' + ending for ending in FORMATS)}")
    convert.add_argument("target", help="the file to write; its ending says the format")
    convert.add_argument(
        "--option",
        dest="options",
        action="append",
        default=[],
        metavar="NAME=WORD",
        help="an option of the format that is written, e.g. encoding=ascii",
    )
    _add_error(convert)
    convert.set_defaults(function=_convert)
    info = commands.add_parser("info", help="say what a mesh file holds, and what is wrong with it")
    info.add_argument("file", help="the file")
    info.add_argument("--json", action="store_true", help="as JSON")
    _add_error(info)
    info.set_defaults(function=_info)


def _add_error(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--error",
        type=float,
        default=0.0,
        metavar="M",
        help="how far lines may be from the bows of a drawing, in m (default: a thousandth of its size)",
    )


def _convert(given: argparse.Namespace) -> int:
    format_of(given.target)
    options = dict(pair(text, "--option") for text in given.options)
    with collecting() as notes:
        geo = read_file(given.source, error=given.error)
        geo.write(given.target, **options)
    for one in notes:
        print(one.text, file=sys.stderr)
    size = Path(given.target).stat().st_size
    print(f"{given.target}: {repr(geo)[5:-1]}; {size:,} bytes")
    return 0


def _info(given: argparse.Namespace) -> int:
    with collecting() as notes:
        geo = read_file(given.file, error=given.error)
    found = [
        {"name": one.name, "kind": one.kind, "count": len(one.elements), "level": level}
        for level, checks in (("defect", find_defects(geo)), ("remark", find_remarks(geo)))
        for one in checks
    ]
    told = {**describe_geo(geo), "checks": found, "notes": [one.text for one in notes]}
    print(json.dumps(told, indent=2) if given.json else info_text(geo, told))
    return 0


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
