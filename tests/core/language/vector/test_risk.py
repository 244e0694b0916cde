"""What may stop the program must not run where its value is not needed."""

import pytest

from reticula.core.language.vector.risk import Risk
from tests.core.language.programs.checked import expression


@pytest.mark.parametrize(
    ("text", "risky"),
    [
        ("cover * 2", False),
        ("here.neighbours[0].cover", True),
        ("1 // index", True),
        ("sum([1, 2])", True),
        ("sum([0.5])", False),
        ("reef.closest(position).distance", True),
        ("sqrt(cover) if border else cover", False),
    ],
)
def test_what_may_fail(text: str, risky: bool) -> None:
    risk, made = Risk(), expression(text)
    assert risk.among(made) == risky
    assert risk.known[id(made)] == risky
