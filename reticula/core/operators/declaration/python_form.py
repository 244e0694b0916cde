"""An operator as Python sees it: its signature, its docstring in the numpydoc form, and its entry in the stubs."""

from __future__ import annotations

import inspect
import textwrap
from collections.abc import Iterable, Sequence
from typing import Any, Protocol

from reticula.core.operators.declaration.parameters import Parameter
from reticula.core.operators.declaration.ports import Input, Output

__all__ = ["docstring_of", "signature_of", "stubs_of"]

WIDTH = 100
ERRORS = ("ParameterError", "FormulaError", "GeometryError")
LONGEST = 72
"""Letters of a type or default that are told in full beside a name."""
STUBS_HEAD = '''"""All operators, for editors and type checkers. Made from their declarations by ``make generate``."""

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from numpy.typing import ArrayLike

from reticula.core.geometry import Geo

'''


class Declared(Protocol):
    """What is read of an operator here."""

    @property
    def name(self) -> str: ...
    @property
    def summary(self) -> str: ...
    @property
    def description(self) -> str: ...
    @property
    def carries(self) -> str: ...
    @property
    def inputs(self) -> Sequence[Input]: ...
    @property
    def outputs(self) -> Sequence[Output]: ...
    @property
    def parameters(self) -> Sequence[Parameter]: ...


class _Written(str):
    """A type that is shown as it is written."""

    def __repr__(self) -> str:
        return str(self)


def signature_of(entry: Declared) -> inspect.Signature:
    """Return the signature of a call: geometries first, parameters by name; formulas stand as text."""
    kinds = inspect.Parameter
    takes = [
        kinds(
            given.name,
            kinds.VAR_POSITIONAL if given.many else kinds.POSITIONAL_OR_KEYWORD,
            default=None if given.optional and not given.many else kinds.empty,
            annotation=_Written(_input_type(given)),
        )
        for given in sorted(entry.inputs, key=lambda given: (given.many, given.optional))
    ]
    takes += [
        kinds(one.name, kinds.KEYWORD_ONLY, default=_default(one), annotation=_Written(one.annotation))
        for one in entry.parameters
        if one.name.isidentifier()
    ]
    return inspect.Signature(takes, return_annotation=_Written(_result_type(entry)))


def docstring_of(entry: Declared) -> str:
    """Return the docstring of a call: https://numpydoc.readthedocs.io/en/latest/format.html."""
    lines = [f"{entry.summary[:1].upper()}{entry.summary[1:]}.", ""]
    lines += _wrapped(entry.description) if entry.description else []
    lines += _section("Parameters", [*_inputs(entry.inputs), *_parameters(entry.parameters)])
    lines += _section(
        "Returns", [line for made in entry.outputs for line in _entry(made.name, "Geo", _sentence(made.help))]
    )
    lines += _section("Raises", _entry(", ".join(ERRORS), "", "What cannot be done, where, and what to do about it."))
    lines += _section("Notes", _wrapped(entry.carries)[:-1])
    return "\n".join(lines).rstrip() + "\n"


def stubs_of(entries: Iterable[Declared]) -> str:
    """Return ``ops.pyi``."""
    return STUBS_HEAD + "".join(_stub(entry) for entry in sorted(entries, key=lambda entry: entry.name))


def _stub(entry: Declared) -> str:
    takes = [_stub_argument(one) for one in signature_of(entry).parameters.values()]
    many = any(given.many for given in entry.inputs)
    first = sum(not one.startswith("*") for one in takes[: len(entry.inputs)]) + many
    if len(takes) > first and not many:
        takes.insert(first, "*")
    body = textwrap.indent(docstring_of(entry).replace("\\", "\\\\"), "    ").replace("\n    \n", "\n\n")
    arguments = "".join(f"    {one},\n" for one in takes)
    head = f"def {entry.name}(\n{arguments}) -> {_result_type(entry)}:" if takes else f"def {entry.name}() -> Geo:"
    return f'{head}\n    """{body.strip()}\n    """\n\n'


def _stub_argument(one: inspect.Parameter) -> str:
    star = "*" if one.kind is inspect.Parameter.VAR_POSITIONAL else ""
    default = "" if one.default is inspect.Parameter.empty else f" = {one.default!r}"
    return f"{star}{one.name}: {one.annotation}{default}"


def _input_type(given: Input) -> str:
    return "Geo | Sequence[Geo]" if given.many else "Geo | None" if given.optional else "Geo"


def _result_type(entry: Declared) -> str:
    return "Geo" if len(entry.outputs) == 1 else f"tuple[{', '.join(['Geo'] * len(entry.outputs))}]"


def _default(one: Parameter) -> Any:
    formula = isinstance(one.default, dict) and set(one.default) == {"formula"}
    return one.default["formula"] if formula else one.default


def _inputs(inputs: Sequence[Input]) -> list[str]:
    return [line for one in inputs for line in _entry(one.name, _input_type(one), _sentence(one.help))]


def _parameters(parameters: Sequence[Parameter]) -> list[str]:
    lines = []
    for one in parameters:
        unit = f", {one.unit}" if one.unit else ""
        told = [f"{_sentence(one.help)}", *(f"{word}: {means}." for word, means in _meanings(one) if means)]
        if one.shown_when:
            told.append(f"Matters where ``{one.shown_when[0]}`` is {one.shown_when[1]!r}.")
        default = repr(_default(one))
        default = f", default: {default}" if len(default) <= LONGEST else ", optional"
        lines += _entry(one.name, f"{_told_type(one)}{unit}{default}", "\n".join(told))
    return lines


def _meanings(one: Parameter) -> list[tuple[str, str]]:
    return [(f"``{word!r}``", means) for word, means in getattr(one, "options", {}).items()]


def _told_type(one: Parameter) -> str:
    options = getattr(one, "options", None)
    if options:
        told = f"{{{', '.join(map(repr, options))}}}"
        return told if len(told) <= LONGEST else "str"
    return one.annotation


def _sentence(text: str) -> str:
    return f"{text[:1].upper()}{text[1:]}{'' if text.endswith('.') else '.'}"


def _entry(name: str, type: str, text: str) -> list[str]:
    told = [line for part in text.splitlines() for line in textwrap.wrap(part, WIDTH - 4)]
    return [f"{name} : {type}" if type else name, *(f"    {line}" for line in told)]


def _section(title: str, lines: Sequence[str]) -> list[str]:
    return [title, "-" * len(title), *lines, ""] if lines else []


def _wrapped(text: str) -> list[str]:
    """Fill paragraphs; each ends with an empty line, as does the whole."""
    return [line for part in text.split("\n\n") for line in [*textwrap.wrap(part, WIDTH), ""]]
