"""The graphs of the tutorials: current, whole, and what their pages say of them is so."""

import json
import re
from pathlib import Path

import pytest

from demo.tutorials.graphs import TUTORIALS, text_of
from reticula.bundle import DEMO, demo_shapes
from reticula.core.graph import Evaluator
from reticula.core.operators.shared.resources import DiskResources
from tools.tutorial_pictures import PICTURES, STEPS

PAGES = Path(__file__).parents[3] / "docs" / "tutorials"
SHAPES = DiskResources({name: str(path) for name, path in demo_shapes().items()}, DEMO)


@pytest.mark.parametrize("name", TUTORIALS)
def test_a_tutorial_is_current_runs_and_is_told_truly(name: str) -> None:
    kept = (DEMO / "tutorials" / f"{name}.json").read_text("utf-8")
    assert kept == text_of(name)
    done = Evaluator().evaluate(json.loads(kept), shapes=SHAPES)
    assert [(node, one.error) for node, one in done.nodes.items() if one.error] == []
    said = " ".join(note.text for one in done.nodes.values() for note in one.notes)
    page = (PAGES / f"{name}.md").read_text("utf-8")
    quoted = re.findall(r"\*([A-Z][^*]*\d[^*]*\.)\*", " ".join(page.split()))
    for sentence in (part for text in quoted for part in re.split(r"(?<=\.) (?=[A-Z])", text)):
        assert sentence in said, "the page quotes what the product does not say"
    assert f"(/?demo={name})" in page
    for picture in re.findall(r"pictures/(\w+)\.webp", page):
        assert STEPS[picture][0] == name
        assert (PICTURES / f"{picture}.webp").is_file()


def test_every_picture_is_shown() -> None:
    shown = {one for page in PAGES.glob("*.md") for one in re.findall(r"pictures/(\w+)\.webp", page.read_text("utf-8"))}
    assert shown == STEPS.keys() == {path.stem for path in PICTURES.glob("*.webp")}
