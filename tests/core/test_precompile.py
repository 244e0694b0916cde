"""Building kernels beforehand reaches what the first click needs."""

from reticula.core.operators import OPERATORS
from reticula.core.precompile import VARIANTS, precompile


def test_every_variant_names_an_operator_and_its_parameters() -> None:
    for name, parameters in VARIANTS:
        known = {parameter.name for parameter in OPERATORS[name].parameters}
        assert set(parameters) <= known
        OPERATORS[name].check(parameters)


def test_all_of_it_runs_and_says_how_long_it_took() -> None:
    assert 0 < precompile() < 600
