"""``reticula list`` and ``reticula describe``: which operators there are, and all about one."""

from __future__ import annotations

import json

import click
from click.shell_completion import CompletionItem

from reticula.cli.options import JSON
from reticula.core.graph import schema
from reticula.core.operators import OPERATORS, Operator, find_operator
from reticula.core.packages import Package, load_package

__all__ = ["describe_command", "list_command", "operator_text", "package_text"]


@click.command("list")
@JSON
def list_command(as_json: bool) -> None:
    """List all operators."""
    if as_json:
        print(json.dumps([entry.describe() for entry in OPERATORS.values()], indent=2))
        return
    width = max(len(name) for name in OPERATORS)
    for family in sorted({entry.family for entry in OPERATORS.values()}):
        print(family)
        for name, entry in sorted(OPERATORS.items()):
            if entry.family == family:
                print(f"  {name:{width}}  {entry.summary}")


def _names(context: click.Context, option: click.Parameter, begun: str) -> list[CompletionItem]:
    found = [CompletionItem(name, help=entry.summary) for name, entry in OPERATORS.items() if name.startswith(begun)]
    return found or [CompletionItem(begun, type="file")]


@click.command("describe")
@click.argument("operator", shell_complete=_names)
@JSON
def describe_command(operator: str, as_json: bool) -> None:
    """Tell all about an operator, a package (zip), or the schema of graphs ('graph')."""
    if operator.lower().endswith(".zip"):
        package = load_package(operator)
        print(json.dumps(package.definitions, indent=2) if as_json else package_text(package))
    elif operator == "graph":
        print(json.dumps(schema(), indent=2))
    else:
        entry = find_operator(operator)
        print(json.dumps(entry.describe(), indent=2) if as_json else operator_text(entry))


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


def package_text(package: Package) -> str:
    """Return a plain text page about a package."""
    lines = [f"a package about {package.main}"]
    signed = package.signature
    lines.append(f"signed by {signed.publisher or 'somebody'} ({signed.fingerprint})" if signed else "not signed")
    for key, definition in package.definitions.items():
        lines += ["", f"{key}: {definition.get('summary') or definition.get('title', '')}"]
        lines += [
            f"  input  {entry['name']}: {entry.get('help', '')}" for entry in definition["graph"].get("inputs", [])
        ]
        lines += [
            f"  output {entry['name']}: {entry.get('help', '')}" for entry in definition["graph"].get("outputs", [])
        ]
        for name, dial in definition["graph"].get("dials", {}).items():
            lines.append(
                f"  {name} = {json.dumps(dial.get('default', dial['value']))} {dial.get('unit', '')}: "
                f"{dial.get('help', '')}"
            )
    return "\n".join(lines)
