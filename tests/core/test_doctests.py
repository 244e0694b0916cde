"""Examples in docstrings do what they say."""

from __future__ import annotations

import doctest
import importlib
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
MODULES = sorted(
    ".".join(path.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__")
    for path in (ROOT / "reticula").rglob("*.py")
    if ">>> " in path.read_text("utf-8")
)


@pytest.mark.parametrize("name", MODULES)
def test_examples_do_what_they_say(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(ROOT)
    outcome = doctest.testmod(importlib.import_module(name))
    assert outcome.attempted > 0
    assert outcome.failed == 0


def test_what_everybody_calls_has_an_example() -> None:
    assert {"reticula.core", "reticula.core.geometry.mesh.geo", "reticula.core.language.script"} <= set(MODULES)
