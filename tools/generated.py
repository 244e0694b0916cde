"""Writes the files that are made from the code, or with ``--check`` says which are out of date.

``python -m tools.generated [--check]``
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from reticula.core.graph import schema
from reticula.core.language.completions import describe_functions
from reticula.core.language.functions import FAMILIES, FUNCTIONS
from reticula.core.language.functions import OPERATORS as SYMBOLS
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.scope import AROUND, BUILTINS
from reticula.core.operators import OPERATORS
from reticula.core.operators.declaration.python_form import stubs_of
from reticula.core.packages.definition import definition_schema
from reticula.core.packages.package import package_schema
from reticula.service.openapi import openapi_text
from tools.command_reference import command_reference
from tools.format_table import format_table
from tools.http_reference import http_page
from tools.operator_pages import operator_index, operator_page

ROOT = Path(__file__).resolve().parents[1]


MARK = "<!-- Everything below is made from the code by `make generate`. -->\n"


TABLE = (
    "<!-- What follows is made from the code by `make generate`. -->\n",
    "<!-- End of what is made from the code. -->\n",
)


def with_made(page: str, made: str) -> str:
    """Return a page of the documentation: what was written by hand, and what is made from the code."""
    before, _, rest = (ROOT / "docs" / page).read_text().partition(TABLE[0])
    after = rest.partition(TABLE[1])[2]
    return f"{before}{TABLE[0]}\n{made}\n{TABLE[1]}{after}"


def language_page() -> str:
    """Return the language's page: what was written by hand, and tables of everything that has a name."""
    page = ROOT / "docs" / "language.md"
    written = page.read_text().partition(MARK)[0] + MARK
    return f"{written}\n{language_tables()}"


def code(text: str) -> str:
    return f"`{text}`" if text else ""


def language_tables() -> str:
    """Return the tables of everything that a program can name."""
    lines = ["## Operators", "", "| form | meaning |", "|---|---|"]
    lines += [f"| `{f.usage}` | {f.summary} |" for f in SYMBOLS.values()]
    for family, names in FAMILIES.items():
        lines += ["", f"## Functions: {family}", "", "| form | meaning | example | after |", "|---|---|---|---|"]
        lines += [f"| `{f.usage}` | {f.summary} | `{f.example}` | {f.source} |" for f in (FUNCTIONS[n] for n in names)]
    for family, title in (
        ("lists", "Functions: lists and elements"),
        ("script", "Making, removing, showing"),
        ("controls", "Declaring"),
    ):
        lines += ["", f"## {title}", "", "| form | meaning | example |", "|---|---|---|"]
        lines += [
            f"| `{entry['usage']}` | {entry['summary']} | {code(entry['example'])} |"
            for entry in describe_functions()
            if entry["family"] == family
        ]
    lines += [
        "",
        "## Questions to a geometry, by its input's name",
        "",
        "| form | meaning | what a place knows |",
        "|---|---|---|",
    ]
    lines += [
        f"| `source.{m.usage}` | {m.summary} | {', '.join(f'`.{field.name}`' for field in m.fields)} |"
        for m in QUESTIONS.values()
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
        command = ["npx", "openapi-typescript", str(source), "-o", str(target), "--default-non-nullable=false"]
        subprocess.run(command, cwd=ROOT / "web", check=True, capture_output=True)
        return target.read_text()


def files() -> dict[str, str]:
    """Return every generated file's path and content."""
    openapi = openapi_text()
    made = {
        "docs/openapi.json": openapi,
        "docs/http_api.md": http_page(json.loads(openapi)),
        "docs/graph.schema.json": json.dumps(schema(), indent=2, ensure_ascii=False) + "\n",
        "docs/operator.schema.json": json.dumps(definition_schema(), indent=2, ensure_ascii=False) + "\n",
        "docs/package.schema.json": json.dumps(package_schema(), indent=2, ensure_ascii=False) + "\n",
        "docs/formats.md": with_made("formats.md", format_table()),
        "docs/command_line.md": with_made("command_line.md", command_reference()),
        "docs/language.md": language_page(),
        "reticula/core/ops.pyi": stubs_of(OPERATORS.values()),
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
