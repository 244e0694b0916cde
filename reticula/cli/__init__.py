"""The command line: start the workshop, run a graph or a package, convert mesh files and tell of them, list operators,
describe one, pack, import, export, back up, and make accounts.
"""

from __future__ import annotations

import argparse
import json
import sys

from reticula.cli.backup_commands import add_backup_commands
from reticula.cli.file_commands import add_file_commands
from reticula.cli.package_commands import add_package_commands, package_text
from reticula.cli.people_commands import add_people_commands
from reticula.cli.run_command import add_run
from reticula.cli.start_command import add_start
from reticula.core.errors import ReticulaError
from reticula.core.graph import schema
from reticula.core.operators import OPERATORS, Operator, find_operator

__all__ = ["main"]


def main(arguments: list[str] | None = None) -> int:
    """Run the command line; returns 0, or 1 after printing what went wrong and what to do."""
    parser = _parser()
    given = parser.parse_args(arguments)
    try:
        code: int = given.function(given)
        return code
    except ModuleNotFoundError as error:
        print(f"reticula: this needs {error.name}; install it with: pip install 'reticula[server]'", file=sys.stderr)
        return 1
    except (ReticulaError, OSError, KeyError) as error:
        message = error.args[0] if isinstance(error, KeyError) else error
        print(f"reticula: {message}", file=sys.stderr)
        return 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="reticula", description="Edit meshes with node graphs.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    add_run(commands)
    add_file_commands(commands)
    add_start(commands)
    add_package_commands(commands)
    add_backup_commands(commands)
    add_people_commands(commands)
    listing = commands.add_parser("list", help="list all operators")
    listing.add_argument("--json", action="store_true", help="as JSON")
    listing.set_defaults(function=_list)
    describe = commands.add_parser("describe", help="tell all about an operator, or the schema of graphs")
    describe.add_argument("operator", help="name of an operator, a package (zip), or 'graph'")
    describe.add_argument("--json", action="store_true", help="as JSON")
    describe.set_defaults(function=_describe)
    return parser


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
    if given.operator.lower().endswith(".zip"):
        print(package_text(given.operator))
        return 0
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
        lines.append(f"  input {number + 1}  {given.name}{given.how_many}: {given.help}")
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
