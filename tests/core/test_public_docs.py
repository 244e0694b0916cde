"""What is public in Python is told in the numpydoc form: each parameter, what comes back, what goes wrong."""

from __future__ import annotations

import inspect
import re
from collections.abc import Callable
from typing import Any

import pytest

from reticula.core import Geo, load_package, run_script

METHODS = {
    f"Geo.{name}": getattr(Geo, name) for name, _ in inspect.getmembers(Geo, callable) if not name.startswith("_")
}
PUBLIC: dict[str, Callable[..., Any]] = {**METHODS, "load_package": load_package, "run_script": run_script}


def sections(text: str) -> dict[str, str]:
    """The sections of a docstring by their underlined names."""
    parts = re.split(r"^(\w+)\n-+\n", text, flags=re.MULTILINE)
    return dict(zip(parts[1::2], parts[2::2], strict=True))


@pytest.mark.parametrize("name", PUBLIC)
def test_parameters_and_returns_are_told(name: str) -> None:
    function = PUBLIC[name]
    found = sections(inspect.getdoc(function) or "")
    signature = inspect.signature(function)
    told = re.findall(r"^(\*{0,2}\w+)(?: : |$)", found.get("Parameters", ""), flags=re.MULTILINE)
    wanted = [
        "*" * {"VAR_POSITIONAL": 1, "VAR_KEYWORD": 2}.get(parameter.kind.name, 0) + parameter.name
        for parameter in signature.parameters.values()
        if parameter.name not in ("self", "cls")
    ]
    assert told == wanted
    assert ("Returns" in found) == (signature.return_annotation not in (None, "None"))


def test_the_usual_ones_have_examples_and_say_what_goes_wrong() -> None:
    for name in ("Geo.of", "Geo.from_faces", "Geo.attribute", "Geo.with_attribute", "run_script"):
        found = sections(inspect.getdoc(PUBLIC[name]) or "")
        assert "Examples" in found, name
        assert "Raises" in found, name
