"""Thousands of random programs: both back ends give what plain Python gives."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormulaError
from reticula.core.language.script import run_script
from tests.core.language.programs.generating import program
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.programs.plain import World, check_close
from tests.helpers import examples

ZERO = {"total": 0.0, "steps": 0, "hit": False, "way": (0.0, 0.0, 0.0)}


def in_python(geo: Geo, source: str) -> list[dict[str, Any]] | None:
    """What plain Python makes of a program; None if its numbers grow beyond what any of them holds."""
    try:
        made = World(geo).run(source)
    except (OverflowError, ValueError, ZeroDivisionError):
        return None
    finite = all(np.isfinite([one.get("total", 0.0), *one.get("way", (0.0,))]).all() for one in made)
    return made if finite and all(abs(one["steps"]) < 2**62 for one in made) else None


def agree(geo: Geo, seeds: range, run: Any, least: float) -> None:
    """Fail if any program of ``seeds`` gives something else than Python; at least a share of them must say
    something.
    """
    said = 0
    for seed in seeds:
        source = program(seed)
        wanted = in_python(geo, source)
        if wanted is None:
            continue
        with collecting():
            try:
                made = run(geo, source)
            except FormulaError as error:
                raise AssertionError(f"program {seed} was refused: {error}\n{source}") from None
        for name, zero in ZERO.items():
            check_close(
                made.attribute("point", name), [one.get(name, zero) for one in wanted], f"{name}, program {seed}"
            )
        said += 1
    assert said >= least * len(seeds)


@pytest.mark.parametrize("part", range(4))
def test_the_vector_back_end_is_python(field: Geo, part: int) -> None:
    agree(
        field,
        range(part * 10**6, part * 10**6 + examples(250)),
        lambda geo, text: run_script(geo, text, backend="vector"),
        0.9,
    )


def test_generated_code_is_python(field: Geo) -> None:
    agree(field, range(3000, 3000 + examples(350)), run_interpreted, 0.9)


@pytest.mark.slow
def test_compiled_kernels_are_python(field: Geo) -> None:
    agree(field, range(4000, 4008), lambda geo, text: run_script(geo, text, backend="compiled"), 0.8)
