"""docs/language.md: every block runs, and every function has an example that holds."""

import re
from pathlib import Path

import numpy as np
import pytest

from reticula.core.diagnostics import Note
from reticula.core.language import evaluate
from reticula.core.language.completions import describe_functions
from reticula.core.language.functions import FUNCTIONS
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, sheet

PAGE = (Path(__file__).parents[3] / "docs" / "language.md").read_text()
BLOCKS = re.findall(r"```python (formula|script) (\w+)\n(.*?)```", PAGE, re.DOTALL)
EXAMPLES = [entry for entry in describe_functions() if entry["example"]]


def formulas() -> list[tuple[str, str]]:
    found = []
    for what, kind, text in BLOCKS:
        if what == "formula":
            many = "=" in re.sub(r"[<>=!]=", "", text)
            found += [(kind, text)] if many else [(kind, line) for line in text.strip().split("\n")]
    return found


@pytest.mark.parametrize(("kind", "text"), formulas())
def test_formulas_of_the_page(kind: str, text: str) -> None:
    geo = sheet()
    made = evaluate(text, geo, kind, inputs={"geo": geo, "reef": reef()})  # type: ignore[arg-type]
    assert len(made.array) == geo.topology.count(kind)  # type: ignore[arg-type]
    assert (
        made.array.dtype == bool
        or np.ptp(made.array.astype(float), axis=0).max() > 0
        or "reef.faces[0]" in text
        or "max(" in text
        or "reef.points[0]" in text
        or "inside" in text
    )


@pytest.mark.parametrize(("each", "text"), [(kind, text) for what, kind, text in BLOCKS if what == "script"])
def test_scripts_of_the_page(each: str, text: str, notes: list[Note]) -> None:
    geo = sheet()
    inputs = {"reef": reef()}
    made = run_script(geo, text, each=each, inputs=inputs, backend="vector")
    assert made.digest != geo.digest
    assert run_interpreted(geo, text, each=each, inputs=inputs).counts == made.counts
    assert not [note for note in notes if note.level == "warning"]


@pytest.mark.parametrize("entry", EXAMPLES, ids=lambda entry: entry["name"])
def test_example_of_every_function(entry: dict[str, str]) -> None:
    text = entry["example"]
    assert entry["name"] in text
    left, equals, right = text.partition(" == ")
    geo = sheet()
    if not equals:
        assert evaluate(text, geo, "point", "flag").array.all()
        return
    found, wanted = evaluate(left, geo, "point"), evaluate(right, geo, "point")
    np.testing.assert_allclose(found.array.astype(float), wanted.array.astype(float), rtol=1e-12, atol=1e-12)


def test_every_function_has_an_example() -> None:
    shown = {entry["name"] for entry in EXAMPLES}
    assert set(FUNCTIONS) <= shown
    for name in (
        "add_point",
        "add_curve",
        "add_face",
        "add_segments",
        "remove",
        "print",
        "choice(",
        "gradient",
        "curve(",
    ):
        assert name in PAGE.partition("<!-- Everything")[0]
