"""The snippets that the editor offers: every one runs, on both back ends, and does something."""

import re
from pathlib import Path

import pytest

from reticula.core import Geo
from reticula.core.diagnostics import Note
from reticula.core.language.script import EACH, run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, sheet

SOURCE = (Path(__file__).parents[3] / "web" / "src" / "script" / "snippets.ts").read_text()
SNIPPETS = re.findall(r"title: '([^']+)', each: '(\w+)', text: '((?:[^'\\]|\\.)*)'", SOURCE)


def test_all_are_found() -> None:
    assert len(SNIPPETS) == SOURCE.count("{ title:")
    assert {each for _, each, _ in SNIPPETS} <= set(EACH)


@pytest.mark.parametrize(("title", "each", "text"), SNIPPETS)
def test_a_snippet_runs(title: str, each: str, text: str, notes: list[Note]) -> None:
    text = text.replace("\\n", "\n")
    geo: Geo = sheet()
    if title == "remove small faces":
        text = text.replace("= 0.001", "= 0.041")
    made = run_script(geo, text, each=each, inputs={"reef": reef()}, backend="vector")
    assert made.digest != geo.digest
    again = run_interpreted(geo, text, each=each, inputs={"reef": reef()})
    assert again.counts == made.counts
    assert set(again.attributes["point"]) == set(made.attributes["point"])
