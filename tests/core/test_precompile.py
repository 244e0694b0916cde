"""Building kernels beforehand reaches what the first click needs."""

import pytest

from reticula.core import precompile as module
from reticula.core.operators import OPERATORS
from reticula.core.precompile import VARIANTS, precompile


def test_every_variant_names_an_operator_and_its_parameters() -> None:
    for name, parameters in VARIANTS:
        known = {parameter.name for parameter in OPERATORS[name].parameters}
        assert set(parameters) <= known
        OPERATORS[name].check(parameters)


def test_all_of_it_runs_and_says_how_long_it_took() -> None:
    assert 0 < precompile() < 600


def test_how_far_it_is_is_said_at_every_quarter(capsys: pytest.CaptureFixture[str]) -> None:
    for done in range(1, 131):
        module._say(done, 130)
    assert capsys.readouterr().out.split("\n") == ["  25 %", "  50 %", "  75 %", "  100 %", ""]
