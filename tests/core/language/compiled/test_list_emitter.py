"""Lists in generated code: read, made, joined, filtered, folded."""

import pytest

from reticula.core.errors import FormulaError
from tests.core.language.programs.checked import agreed, code_of


@pytest.mark.parametrize("how", ["mean", "sum", "min", "max", "median", "deviation", "len"])
@pytest.mark.parametrize("items", ["here.neighbours.cover", "[c * 2 for c in here.neighbours.cover if c > 0.5]"])
def test_folding(how: str, items: str) -> None:
    agreed(f"here.a = {how}({items})")


@pytest.mark.parametrize(
    "text",
    [
        "here.a = [k * k for k in range(5, 0, -2)]",
        "here.a = [1, 2] + [index]",
        "here.a = here.neighbours.position[-1]",
        "here.a = any([n.cover > 0.9 for n in here.neighbours])",
        "here.a = all([n.cover > 0.1 for n in here.neighbours])",
        "here.a = sum([len(f.points) for f in here.faces])",
        "a = [0.0]\nfor n in here.neighbours:\n    a.append(n.cover)\na[0] = sum(a)\nhere.a = a",
    ],
)
def test_both_back_ends_agree(text: str) -> None:
    agreed(text)


def test_an_item_that_is_not_there_is_located() -> None:
    with pytest.raises(FormulaError) as caught:
        agreed("a = range(index)\nhere.a = a[2]")
    assert caught.value.line == 2
    assert "2" in caught.value.plain


def test_a_list_that_is_only_gone_through_gets_no_room() -> None:
    source = code_of("here.a = sum(here.neighbours.cover)").source
    assert "np.empty" not in source[source.index("for at in range(lo") :]
