"""The pages of the operators in the documentation, made from their declarations."""

from __future__ import annotations

import json

from reticula.core.operators import OPERATORS, Operator

__all__ = ["operator_index", "operator_page"]


def as_markdown(text: str) -> str:
    """Return a text of a docstring as Markdown."""
    return text.replace("``", "`")


def operator_page(entry: Operator) -> str:
    """Return the reference page of an operator."""
    lines = [f"# {entry.label}", "", f"{as_markdown(entry.summary)}.", ""]
    lines += [f"![What the example makes](pictures/{entry.name}.webp)", ""]
    if entry.description:
        lines += [as_markdown(entry.description), ""]
    lines += [*_example(entry), *_flow(entry), *_parameters(entry)]
    return "\n".join(lines)


def _example(entry: Operator) -> list[str]:
    together = [f"[{OPERATORS[name].label}]({name}.md)" for name in entry.related]
    return [
        "## Example",
        "",
        "```python",
        entry.example,
        "```",
        "",
        f"[Open it as a graph](/?example={entry.name}), where the application runs.",
        "",
        f"Related: {', '.join(together)}.",
        "",
    ]


def _flow(entry: Operator) -> list[str]:
    """What becomes of attributes, what goes in and what comes out."""
    lines = ["## Attributes", "", as_markdown(entry.carries), ""]
    if entry.inputs:
        lines += ["| input | takes |", "|---|---|"]
        lines += [*(f"| {given.name}{given.how_many} | {as_markdown(given.help)} |" for given in entry.inputs), ""]
    if len(entry.outputs) > 1:
        lines += ["| output | holds |", "|---|---|"]
        lines += [*(f"| {made.name} | {as_markdown(made.help)} |" for made in entry.outputs), ""]
    return lines


def _parameters(entry: Operator) -> list[str]:
    """Each parameter with its default; a link may lead to it by its name."""
    lines = ["## Parameters", "", "| parameter | default | unit | meaning |", "|---|---|---|---|"]
    for parameter in entry.parameters:
        default = (
            parameter.default["formula"]
            if isinstance(parameter.default, dict) and "formula" in parameter.default
            else json.dumps(parameter.default)
        )
        options = "".join(f"<br>`{name}`: {help}" for name, help in getattr(parameter, "options", {}).items())
        name = f'<a id="{parameter.name}"></a>{parameter.name}'
        lines.append(f"| {name} | `{default}` | {parameter.unit} | {as_markdown(parameter.help)}{options} |")
    call = ", ".join([*(given.name for given in entry.inputs), *(f"{p.name}=…" for p in entry.parameters[:2])])
    table = [*lines, ""] if entry.parameters else []
    return [*table, "In Python:", "", "```python", f"ops.{entry.name}({call})", "```", ""]


def operator_index() -> str:
    """Return the list of all operators by family."""
    lines = ["# Operators", "", "Made from the operators' declarations.", ""]
    for family in sorted({entry.family for entry in OPERATORS.values()}):
        lines += [f"## {family}", ""]
        lines += [
            f"- [{e.label}]({e.name}.md): {as_markdown(e.summary)}"
            for e in sorted(OPERATORS.values(), key=lambda e: e.name)
            if e.family == family
        ]
        lines.append("")
    return "\n".join(lines)
