"""The command line: run a graph, list operators, describe one."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from reticula.core.errors import GraphError, ReticulaError
from reticula.core.graph import Evaluator, check_structure, schema, split_feed
from reticula.core.operators import OPERATORS, Operator, find_operator
from reticula.core.operators.resources import DiskResources
from reticula.core.summary import element_counts

__all__ = ["main"]


def main(arguments: list[str] | None = None) -> int:
    """Run the command line; returns 0, or 1 after printing what went wrong and what to do."""
    parser = _parser()
    given = parser.parse_args(arguments)
    try:
        code: int = given.function(given)
        return code
    except (ReticulaError, OSError, KeyError) as error:
        message = error.args[0] if isinstance(error, KeyError) else error
        print(f"reticula: {message}", file=sys.stderr)
        return 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="reticula", description="Edit meshes with node graphs.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    run = commands.add_parser("run", help="evaluate a graph and write the result")
    run.add_argument("graph", help="graph document (JSON)")
    run.add_argument(
        "--in", dest="shapes", action="append", default=[], metavar="NAME=FILE", help="mesh for a project shape"
    )
    run.add_argument(
        "--set", dest="values", action="append", default=[], metavar="NAME=VALUE", help="a dial, or NODE.PARAMETER"
    )
    run.add_argument("--node", help="whose result to write (default: the graph's result)")
    run.add_argument("--out", metavar="FILE", help="where to write; the ending says the format")
    run.set_defaults(function=_run)
    listing = commands.add_parser("list", help="list all operators")
    listing.add_argument("--json", action="store_true", help="as JSON")
    listing.set_defaults(function=_list)
    describe = commands.add_parser("describe", help="tell all about an operator, or the schema of graphs")
    describe.add_argument("operator", help="name of an operator, or 'graph'")
    describe.add_argument("--json", action="store_true", help="as JSON")
    describe.set_defaults(function=_describe)
    return parser


def _pair(text: str, option: str) -> tuple[str, str]:
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
    try:
        document = json.loads(path.read_text("utf-8"))
    except ValueError as error:
        raise GraphError(f"{path} is not JSON: {error}") from None
    check_structure(document)
    dials = {}
    for text in given.values:
        name, value = _pair(text, "--set")
        node, dot, parameter = name.partition(".")
        if not dot:
            dials[name] = _value(value)
        elif node in document["nodes"]:
            document["nodes"][node].setdefault("parameters", {})[parameter] = _value(value)
        else:
            raise GraphError(f"there is no node '{node}'; there are {', '.join(document['nodes'])}")
    shapes = DiskResources(dict(_pair(text, "--in") for text in given.shapes), path.parent)
    target = (
        given.node or document.get("result") or document.get("looking_at") or next(reversed(document["nodes"]), None)
    )
    if not target or split_feed(target)[0] not in document["nodes"]:
        raise GraphError(f"there is no node '{target}'; there are {', '.join(document['nodes']) or 'none'}")
    done = Evaluator().evaluate(document, dials=dials, targets=[target], shapes=shapes)
    for name, result in done.nodes.items():
        for remark in result.notes:
            if remark.level == "warning":
                print(f"{name}: {remark.text}", file=sys.stderr)
    geo = done.geo(target)
    if given.out:
        geo.write(given.out)
    counts = ", ".join(f"{count:,} {kind}" for kind, count in element_counts(geo).items() if count)
    seconds = sum(result.seconds for result in done.nodes.values())
    print(f"{target}: {counts or 'empty'}; {seconds:.3f} s" + (f"; wrote {given.out}" if given.out else ""))
    return 0


def _list(given: argparse.Namespace) -> int:
    if given.json:
        print(json.dumps([entry.describe() for entry in OPERATORS.values()], indent=2))
        return 0
    width = max(len(name) for name in OPERATORS)
    for family in sorted({entry.family for entry in OPERATORS.values()}):
        print(family)
        for name, entry in sorted(OPERATORS.items()):
            if entry.family == family:
                print(f"  {name:{width}}  {entry.summary}")
    return 0


def _describe(given: argparse.Namespace) -> int:
    if given.operator == "graph":
        print(json.dumps(schema(), indent=2))
        return 0
    entry = find_operator(given.operator)
    print(json.dumps(entry.describe(), indent=2) if given.json else operator_text(entry))
    return 0


def operator_text(entry: Operator) -> str:
    """Return a plain text page about an operator."""
    lines = [f"{entry.label}: {entry.summary}", "", entry.description, "", f"Attributes: {entry.carries}", ""]
    for number, given in enumerate(entry.inputs):
        lines.append(
            f"  input {number + 1}  {given.name}{' (any number)' if given.many else ' (may stay empty)' if given.optional else ''}: {given.help}"
        )
    if len(entry.outputs) > 1:
        lines += [f"  output {number + 1}  {made.name}: {made.help}" for number, made in enumerate(entry.outputs)]
    for parameter in entry.parameters:
        formula = isinstance(parameter.default, dict) and "formula" in parameter.default
        default = parameter.default["formula"] if formula else json.dumps(parameter.default)
        unit = f" {parameter.unit}" if parameter.unit else ""
        lines.append(f"  {parameter.name} = {default}{unit}: {parameter.help}")
        for option, help in getattr(parameter, "options", {}).items():
            lines.append(f"      {option}: {help}")
    return "\n".join(lines)


if __name__ == "__main__":
    sys.exit(main())
