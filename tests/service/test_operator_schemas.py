"""The schema of operators takes every operator that there is, and loses nothing of it."""

import pytest
from pydantic import ValidationError

from reticula.core.operators import OPERATORS
from reticula.service.operator_schemas import OperatorState, ParameterState


@pytest.mark.parametrize("name", OPERATORS)
def test_every_operator_fits(name: str) -> None:
    told = OPERATORS[name].describe()
    made = OperatorState.model_validate(told).model_dump(exclude_unset=True)
    assert made["name"] == name
    for given, kept in zip(told["parameters"], made["parameters"], strict=True):
        assert set(given) == set(kept), "the schema knows each field"


def test_what_does_not_fit_is_refused() -> None:
    told = OPERATORS["box"].describe()["parameters"][0]
    with pytest.raises(ValidationError):
        ParameterState.model_validate({**told, "handle": {"shape": "spoon", "at": [], "space": "own"}})
