"""What every parameter has: a valid default, a description, the names that its formula reads."""

import pytest

from reticula.core.operators.declaration.parameters import (
    Parameter,
)
from tests.core.operators.declaration.parameters.samples import BY_NAME, KINDS_OF


@pytest.mark.parametrize("parameter", KINDS_OF, ids=lambda p: type(p).__name__)
def test_default_is_valid_and_described(parameter: Parameter) -> None:
    assert parameter.check(parameter.default) == parameter.default
    told = parameter.describe()
    assert told["name"] == parameter.name
    assert told["help"] == "help"
    assert told["widget"]


def test_what_a_formula_reads_is_known() -> None:
    assert BY_NAME["n"].reads({"formula": "height * sin(width)"}) == {"height", "width", "sin"}
    assert BY_NAME["n"].reads(3.0) == frozenset()
    assert BY_NAME["where"].reads("crest and x > 1") == {"crest", "x"}
    assert BY_NAME["where"].reads("((") == frozenset()
