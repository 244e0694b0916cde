"""Writes the files that are made from the code, or with ``--check`` says which are out of date.

``python -m setup.generated [--check]``
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from reticula.core.graph import schema
from reticula.core.language.functions import FUNCTIONS
from reticula.core.language.functions import OPERATORS as SYMBOLS
from reticula.core.language.queries import METHODS, QUERY_FIELDS
from reticula.core.language.scope import AROUND, BUILTINS
from reticula.core.operators import OPERATORS, Operator
from reticula.service.openapi import openapi_text

ROOT = Path(__file__).resolve().parents[1]


def operator_page(entry: Operator) -> str:
    """Return the reference page of an operator."""
    lines = [f"# {entry.label}", "", f"{entry.summary}.", ""]
    if entry.description:
        lines += [entry.description, ""]
    lines += [f"**Attributes.** {entry.carries}", ""]
    if entry.inputs:
        lines += ["| input | takes |", "|---|---|"]
        lines += [
            f"| {given.name}{' (any number)' if given.many else ' (may stay empty)' if given.optional else ''} | {given.help} |"
            for given in entry.inputs
        ] + [""]
    if len(entry.outputs) > 1:
        lines += ["| output | holds |", "|---|---|", *(f"| {made.name} | {made.help} |" for made in entry.outputs), ""]
    if entry.parameters:
        lines += ["| parameter | default | unit | meaning |", "|---|---|---|---|"]
        for parameter in entry.parameters:
            default = (
                parameter.default["formula"] if isinstance(parameter.default, dict) else json.dumps(parameter.default)
            )
            options = "".join(f"<br>`{name}`: {help}" for name, help in getattr(parameter, "options", {}).items())
            lines.append(f"| {parameter.name} | `{default}` | {parameter.unit} | {parameter.help}{options} |")
        lines.append("")
    call = ", ".join([*(given.name for given in entry.inputs), *(f"{p.name}=…" for p in entry.parameters[:2])])
    lines += ["```python", f"ops.{entry.name}({call})", "```", ""]
    return "\n".join(lines)


def operator_index() -> str:
    """Return the list of all operators by family."""
    lines = ["# Operators", "", "Made from the operators' declarations.", ""]
    for family in sorted({entry.family for entry in OPERATORS.values()}):
        lines += [f"## {family}", ""]
        lines += [
            f"- [{e.label}]({e.name}.md): {e.summary}"
            for e in sorted(OPERATORS.values(), key=lambda e: e.name)
            if e.family == family
        ]
        lines.append("")
    return "\n".join(lines)


def language_tables() -> str:
    """Return the tables of everything that a formula can name."""
    lines = ["# Names in formulas", "", "Made from the code; [language.md](language.md) explains the language.", ""]
    lines += ["## Operators", "", "| form | meaning |", "|---|---|"]
    lines += [f"| `{f.usage}` | {f.summary} |".replace("| `a ** b`", "| `a ** b`") for f in SYMBOLS.values()]
    lines += ["", "## Functions", "", "| form | meaning | after |", "|---|---|---|"]
    lines += [f"| `{f.usage}` | {f.summary} | {f.source} |" for f in FUNCTIONS.values()]
    lines += [
        "| `random(seed, key)` | a number in 0..1 for each element, the same whatever is added around it; with a key, one for each key | |"
    ]
    lines += [
        "",
        "## Questions to a geometry, by its input's name",
        "",
        "| form | meaning | what a place knows |",
        "|---|---|---|",
    ]
    lines += [
        f"| `source.{m.usage}` | {m.summary} | {', '.join(f'`.{field}`' for field in QUERY_FIELDS.get(name, ()))} |"
        for name, m in METHODS.items()
    ]
    lines += ["", "## What every element has", "", "| name | type | on each | meaning |", "|---|---|---|---|"]
    lines += [f"| `{b.name}` | {b.type} | {', '.join(b.read)} | {b.summary} |" for b in BUILTINS.values()]
    lines += ["", "## What is around an element", "", "| each | words |", "|---|---|"]
    lines += [
        f"| {kind} | {', '.join(f'`here.{word}`' for word in words)} |" for kind, words in AROUND.items() if words
    ]
    return "\n".join(lines) + "\n"


def typescript(openapi: str) -> str:
    """Return the TypeScript types of an OpenAPI document."""
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        source.write_text(openapi)
        command = ["npx", "openapi-typescript", str(source), "-o", str(target)]
        subprocess.run(command, cwd=ROOT / "web", check=True, capture_output=True)
        return target.read_text()


def files() -> dict[str, str]:
    """Return every generated file's path and content."""
    openapi = openapi_text()
    made = {
        "docs/openapi.json": openapi,
        "docs/graph.schema.json": json.dumps(schema(), indent=2, ensure_ascii=False) + "\n",
        "docs/names_in_formulas.md": language_tables(),
        "docs/operators/README.md": operator_index(),
        "web/src/api/schema.d.ts": typescript(openapi),
    }
    return made | {f"docs/operators/{entry.name}.md": operator_page(entry) for entry in OPERATORS.values()}


def main() -> int:
    check = "--check" in sys.argv
    made = files()
    stale = [name for name, text in made.items() if not (ROOT / name).exists() or (ROOT / name).read_text() != text]
    if not check:
        for name in stale:
            (ROOT / name).parent.mkdir(parents=True, exist_ok=True)
            (ROOT / name).write_text(made[name])
        print(f"Wrote {len(stale)} of {len(made)} generated files.")
        return 0
    for name in stale:
        print(f"{name} is out of date; run 'make generate'.", file=sys.stderr)
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main())
