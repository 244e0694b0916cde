"""Controls and inputs that a script declares in its text: ``reach: number(0, 2) = 0.4``, ``reef: geometry``."""

from __future__ import annotations

import ast
from collections.abc import Callable
from dataclasses import dataclass
from difflib import get_close_matches
from typing import Any, NoReturn

from reticula.core.errors import FormulaError
from reticula.core.language.parse import Parsed, Place, column_of, parse_script
from reticula.core.language.profiles import STEPS, misplaced, split_step

__all__ = ["CONTROLS", "Control", "Declared", "declared"]

CONTROLS = {
    "number": "number(low, high)",
    "integer": "integer(low, high)",
    "toggle": "toggle",
    "choice": "choice('up', 'out')",
    "vector": "vector",
    "color": "color",
    "curve": "curve(low, high)",
    "gradient": "gradient",
    "geometry": "geometry",
}
"""What can be declared, and how it is written."""
MOST = 64


@dataclass(frozen=True)
class Control:
    """One control: its name, what it is (a key of :data:`CONTROLS`), default, range, words to choose from, help and
    unit.
    """

    name: str
    what: str
    default: Any
    place: Place
    low: float | None = None
    high: float | None = None
    options: tuple[str, ...] = ()
    help: str = ""
    unit: str = ""


@dataclass(frozen=True)
class Declared:
    """All that a script declares."""

    controls: tuple[Control, ...]
    inputs: tuple[Control, ...]


def declared(source: str) -> Declared:
    """Return the controls and inputs of a script; raise FormulaError for a broken declaration, or if the text is
    broken.
    """
    parsed = parse_script(source)
    found = [
        _Reader(source, statement).read() for statement in parsed.statements if isinstance(statement, ast.AnnAssign)
    ]
    _check_names(found)
    return Declared(
        tuple(control for control in found if control.what != "geometry"),
        tuple(control for control in found if control.what == "geometry"),
    )


def statements_of(parsed: Parsed) -> list[ast.stmt]:
    """Return what a script does: all but its declarations."""
    return [statement for statement in parsed.statements if not isinstance(statement, ast.AnnAssign)]


def _check_names(found: list[Control]) -> None:
    seen: set[str] = set()
    for control in found:
        if control.name in seen:
            _fail(f"'{control.name}' is declared twice", control.place)
        seen.add(control.name)
    if len(found) > MOST:
        _fail(f"a script has at most {MOST} controls", found[MOST].place)


class _Reader:
    """Reads one declaration."""

    def __init__(self, source: str, node: ast.AnnAssign) -> None:
        self.source, self.node = source, node
        self.place = column_of(node, source)

    def read(self) -> Control:
        node = self.node
        if not isinstance(node.target, ast.Name) or not node.simple:
            self.fail("a control is declared by name, e.g. reach: number(0, 2) = 0.4")
        name = node.target.id
        if name in ("here", "whole", "geo", "time", "frame"):
            self.fail(f"'{name}' has a meaning of its own; choose another name")
        what, arguments, keywords = self.kind(node.annotation)
        help, unit = str(keywords.pop("help", "")), str(keywords.pop("unit", ""))
        if keywords:
            self.fail(f"'{next(iter(keywords))}' is not known here; there is help='…' and unit='…'")
        default = None if node.value is None else self.data(node.value)
        if what == "geometry":
            if default is not None or arguments:
                self.fail("an input is declared without a value: reef: geometry")
            return Control(name, what, None, self.place, help=help)
        if what == "choice":
            if not arguments or any(not isinstance(word, str) for word in arguments):
                self.fail("write the words to choose from: choice('up', 'out')")
            default = arguments[0] if default is None else default
            if default not in arguments:
                self.fail(f"the default of '{name}' is one of {', '.join(arguments)}")
            return Control(name, what, default, self.place, options=tuple(arguments), help=help, unit=unit)
        low, high = self.range(arguments, what)
        return Control(name, what, self.default(what, default, low, high), self.place, low, high, (), help, unit)

    def kind(self, node: ast.expr) -> tuple[str, list[Any], dict[str, Any]]:
        arguments: list[Any] = []
        keywords: dict[str, Any] = {}
        if isinstance(node, ast.Call):
            arguments = [self.data(part) for part in node.args]
            keywords = {word.arg or "": self.data(word.value) for word in node.keywords}
            node = node.func
        if not isinstance(node, ast.Name) or node.id not in CONTROLS:
            word = node.id if isinstance(node, ast.Name) else "this"
            close = get_close_matches(word, list(CONTROLS), 1, 0.5)
            there = f"did you mean {close[0]}?" if close else f"there is {', '.join(CONTROLS.values())}"
            self.fail(f"'{word}' is no kind of control; {there}")
        return node.id, arguments, keywords

    def range(self, arguments: list[Any], what: str) -> tuple[float | None, float | None]:
        if not arguments:
            return None, None
        numbers = all(isinstance(a, (int, float)) and not isinstance(a, bool) for a in arguments)
        if what not in ("number", "integer", "curve", "vector") or len(arguments) != 2 or not numbers:
            self.fail(f"write {CONTROLS[what]}")
        if arguments[0] >= arguments[1]:
            self.fail(f"the range goes from the lower to the higher number, not from {arguments[0]} to {arguments[1]}")
        return arguments[0], arguments[1]

    def default(self, what: str, given: Any, low: float | None, high: float | None) -> Any:
        number = isinstance(given, (int, float)) and not isinstance(given, bool)
        match what:
            case "number" | "integer":
                value = given if given is not None else (low or 0)
                if given is not None and (not number or (what == "integer" and not isinstance(given, int))):
                    self.fail(f"the default of a{'n' if what == 'integer' else ''} {what} is one, not {given!r}")
                if (low is not None and value < low) or (high is not None and value > high):
                    self.fail(f"the default {value} is outside of {low} to {high}")
                return int(value) if what == "integer" else float(value)
            case "toggle":
                if given is not None and not isinstance(given, bool):
                    self.fail("the default of a toggle is True or False")
                return bool(given)
            case "vector":
                return self.numbers(given, (2, 3, 4), [0.0, 0.0, 0.0])
            case "color":
                color = self.numbers(given, (3, 4), [1.0, 1.0, 1.0, 1.0])
                return color if len(color) == 4 else [*color, 1.0]
            case "curve":
                return self.rows(given, 2, [[0.0, 0.0], [1.0, 1.0]])
        return self.rows(given, 5, [[0.0, 0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0, 1.0, 1.0]])

    def numbers(self, given: Any, sizes: tuple[int, ...], without: list[float]) -> list[float]:
        if given is None:
            return without
        if not isinstance(given, list) or len(given) not in sizes or any(type(x) not in (int, float) for x in given):
            self.fail(f"the default is {' or '.join(map(str, sizes))} numbers in ( )")
        return [float(x) for x in given]

    def rows(self, given: Any, width: int, without: list[list[float]]) -> list[list[Any]]:
        if given is None:
            return without
        words = "points (x, y)" if width == 2 else "stops (x, red, green, blue, alpha)"
        if not isinstance(given, list) or not 1 <= len(given) <= 32:
            self.fail(f"the default is a list of {words}")
        rows: list[list[Any]] = []
        for row in given:
            numbers, step = split_step(row, "") if isinstance(row, list) else ([], "")
            if len(numbers) not in (width, width - 1 if width == 5 else width):
                self.fail(f"the default is a list of {words}")
            if step and step not in STEPS:
                self.fail(f"a point goes on {', '.join(STEPS)}, not '{step}'")
            alpha = [1.0] if len(numbers) == 4 and width == 5 else []
            rows.append([*self.numbers(numbers, (len(numbers),), []), *alpha, *([step] if step else [])])
        wrong = misplaced([row[0] for row in rows])
        if wrong or rows[0][0] < 0.0 or rows[-1][0] > 1.0:
            self.fail(f"{words} go up in x, from 0 to 1{wrong and f'; {wrong}'}")
        return rows

    def data(self, node: ast.expr) -> Any:
        """Read a value that is written out."""
        match node:
            case ast.Constant(value=value):
                return value
            case ast.UnaryOp(op=ast.USub(), operand=ast.Constant(value=int() | float() as number)):
                return -number
            case ast.Tuple(elts=parts) | ast.List(elts=parts):
                return [self.data(part) for part in parts]
        place: Callable[[], Place] = lambda: column_of(node, self.source)  # noqa: E731
        _fail("a declaration holds plain values: numbers, True, False, text, or numbers in ( )", place())

    def fail(self, message: str) -> NoReturn:
        _fail(message, self.place)


def _fail(message: str, place: Place) -> NoReturn:
    line, column, length = place
    raise FormulaError(message, line=line, column=column, length=length)
