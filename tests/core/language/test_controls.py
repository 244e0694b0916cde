"""Controls that a text declares: kinds, ranges, defaults, and what is broken with its line."""

import pytest

from reticula.core.errors import FormulaError
from reticula.core.language.controls import CONTROLS, MOST, declared, statements_of
from reticula.core.language.parse import parse_script


@pytest.mark.parametrize(
    ("text", "what", "default"),
    [
        ("a: number = 2", "number", 2.0),
        ("a: number(1, 3)", "number", 1.0),
        ("a: integer = -4", "integer", -4),
        ("a: toggle", "toggle", False),
        ("a: choice('up', 'out')", "choice", "up"),
        ("a: vector = (1, 2)", "vector", [1.0, 2.0]),
        ("a: color = (1, 0, 0)", "color", [1.0, 0.0, 0.0, 1.0]),
        ("a: curve", "curve", [[0.0, 0.0], [1.0, 1.0]]),
        (
            "a: curve = [(0, 1, 'constant'), (0.5, 0), (0.5, 2)]",
            "curve",
            [[0.0, 1.0, "constant"], [0.5, 0.0], [0.5, 2.0]],
        ),
        ("a: gradient = [(0, 1, 0, 0)]", "gradient", [[0.0, 1.0, 0.0, 0.0, 1.0]]),
        ("a: gradient = [(0, 1, 0, 0, 'smooth')]", "gradient", [[0.0, 1.0, 0.0, 0.0, 1.0, "smooth"]]),
    ],
)
def test_defaults(text: str, what: str, default: object) -> None:
    (control,) = declared(text).controls
    assert (control.name, control.what, control.default) == ("a", what, default)
    assert what in CONTROLS


def test_help_unit_and_range() -> None:
    (control,) = declared("reach: number(0, 2, unit='m', help='how far') = 0.5").controls
    assert (control.low, control.high, control.unit, control.help) == (0, 2, "m", "how far")


def test_inputs_are_apart_and_declarations_do_nothing() -> None:
    text = "reef: geometry\nreach: number = 1\nhere.a = reach"
    found = declared(text)
    assert [entry.name for entry in found.inputs] == ["reef"]
    assert [entry.name for entry in found.controls] == ["reach"]
    assert len(statements_of(parse_script(text))) == 1


@pytest.mark.parametrize(
    ("text", "line", "message"),
    [
        ("b = 1\na: nmber = 1", 2, "'nmber' is no kind of control; did you mean number?"),
        ("a: number(3, 1) = 2", 1, "from the lower to the higher number, not from 3 to 1"),
        ("a: number(0, 1) = 2", 1, "the default 2 is outside of 0 to 1"),
        ("a: integer = 0.5", 1, "the default of an integer is one, not 0.5"),
        ("a: toggle = 1", 1, "the default of a toggle is True or False"),
        ("a: choice()", 1, "write the words to choose from"),
        ("a: choice('up') = 'down'", 1, "the default of 'a' is one of up"),
        ("a: vector = 3", 1, "the default is 2 or 3 or 4 numbers"),
        ("a: curve = [(1, 0), (0, 1)]", 1, "go up in x, from 0 to 1"),
        ("a: curve = [(0, 0, 'steep'), (1, 1)]", 1, "a point goes on smooth, straight, constant, not 'steep'"),
        ("a: curve = [(0, 0), (0, 1), (0, 2)]", 1, "at most two points are at one place"),
        ("a: gradient = [(0, 1)]", 1, "a list of stops"),
        ("a: number = sqrt(2)", 1, "a declaration holds plain values"),
        ("a: number(step=1) = 1", 1, "'step' is not known here"),
        ("here.a: number = 1", 1, "a control is declared by name"),
        ("here: number = 1", 1, "'here' has a meaning of its own"),
        ("a: geometry = 1", 1, "an input is declared without a value"),
        ("a: number = 1\na: toggle", 2, "'a' is declared twice"),
    ],
)
def test_what_is_broken_has_its_line(text: str, line: int, message: str) -> None:
    with pytest.raises(FormulaError) as caught:
        declared(text)
    assert message in caught.value.plain
    assert caught.value.line == line


def test_there_is_a_most() -> None:
    with pytest.raises(FormulaError, match=f"at most {MOST} controls"):
        declared("\n".join(f"a{k}: toggle" for k in range(MOST + 1)))
