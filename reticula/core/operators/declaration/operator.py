"""The one declaration of an operator, from which form, checks, reference page and every way to call it come."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from typing import Any, TypeVar

from reticula.core.deprecation import Deprecation
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry.edit.placement import in_space_of, without_place
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.maker import made_by
from reticula.core.operators.declaration.diagnostics import tell_of_instances, tell_of_numbers
from reticula.core.operators.declaration.parameters import Context, Parameter
from reticula.core.operators.declaration.ports import Input, Output
from reticula.core.operators.declaration.python_form import docstring_of, signature_of
from reticula.core.spans import span

__all__ = ["OPERATORS", "Input", "Operator", "Output", "operator"]

OPERATORS: dict[str, Operator] = {}
Brings = Mapping[str, tuple[str, Any] | None]
Body = Callable[..., "Geo | tuple[Geo, ...]"]
Once = Callable[[str], Any]
"""Gives what an operator's function would receive for a parameter that does not vary over elements."""
Frames = Callable[[Once, Mapping[str, float]], Sequence[float]]
"""Says which frames of its inputs an operator looks at, from its parameters and what formulas read of time."""
MayLook = Callable[[Mapping[str, Any]], bool]
"""Says whether an operator looks at other frames at all, from its parameters as they are stored."""
Needs = Callable[[Once, int], "int | None"]
"""Says which of the geometries of its input, by number, an operator needs, of how many; None: all of them."""
MoreInputs = Callable[[Mapping[str, Any]], Sequence["Input"]]
Function = TypeVar("Function", bound=Body)


class _OfEach:
    """An attribute that Python looks for on a function, worked out for each operator; the class keeps its own."""

    def __init__(self, work_out: Callable[[Operator], Any], of_class: Any) -> None:
        self.work_out, self.of_class = work_out, of_class

    def __get__(self, entry: Operator | None, owner: type) -> Any:
        return self.of_class if entry is None else self.work_out(entry)


@dataclass(frozen=True, repr=False)
class Operator:
    """An operator: its function and all that is known about it.

    ``carries`` says what becomes of attributes. ``example`` is a few lines that make a small graph with it (see
    :mod:`reticula.core.graph.nesting.examples`), ``related`` names operators that one may want instead or next.

    Call it like a function: geometries in the order of ``inputs`` (an input that takes many comes last and takes the
    rest), parameters by name. One that runs a graph holds it as ``graph``; ``content`` is a hash of that. ``frames``
    says at which other frames it looks at its inputs, and ``may_look`` whether it does at all; one that ``remembers``
    gets its own result of the frame before, from the frame on that its parameter ``reset`` gives. ``needs`` says which
    geometry of its only input it needs: it stands in the place of the others, too.
    """

    name: str
    family: str
    summary: str
    description: str
    inputs: tuple[Input, ...]
    parameters: tuple[Parameter, ...]
    carries: str
    keywords: tuple[str, ...]
    version: int
    body: Body
    example: str = ""
    related: tuple[str, ...] = ()
    outputs: tuple[Output, ...] = (Output(),)
    more_inputs: MoreInputs | None = None
    writes: Callable[..., str] | None = None
    title: str = ""
    content: str = ""
    graph: Mapping[str, Any] | None = None
    brings: Brings = field(default_factory=dict)
    frames: Frames | None = None
    may_look: MayLook | None = None
    needs: Needs | None = None
    remembers: bool = False
    holds_graph: bool = False
    deprecated: Deprecation | None = None

    def looks_elsewhere(self, stored: Mapping[str, Any]) -> bool:
        """Whether it may look at its inputs at other frames, with these parameters as they are stored."""
        return self.frames is not None and (self.may_look is None or self.may_look(stored))

    def expects(self, values: Mapping[str, Any]) -> set[str]:
        """Return the names of the findings of checks that this operator may bring with these parameter values."""
        given = {parameter.name: values.get(parameter.name, parameter.default) for parameter in self.parameters}
        return {name for name, when in self.brings.items() if when is None or given[when[0]] == when[1]}

    def inputs_for(self, values: Mapping[str, Any]) -> tuple[Input, ...]:
        """Return all inputs for given parameter values: an operator may have more of them, named by its parameters."""
        if self.more_inputs is None:
            return self.inputs
        defaults = {parameter.name: parameter.default for parameter in self.parameters}
        return (*self.inputs, *self.more_inputs({**defaults, **values}))

    @property
    def __name__(self) -> str:
        return self.name

    @property
    def label(self) -> str:
        return self.title or self.name.replace("_", " ")

    def parameter(self, name: str) -> Parameter:
        """Return a parameter; raise ParameterError that names the ones that exist."""
        for parameter in self.parameters:
            if parameter.name == name:
                return parameter
        names = [parameter.name for parameter in self.parameters]
        raise ParameterError(name, f"{self.label} has no such parameter; {_near(name, names)}")

    def check(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """Return all parameters in stored form, defaults filled in; raise ParameterError for the first bad one.

        Values of dials that a graph has no more are passed over: they are kept in the document.
        """
        for name in given if self.graph is None else ():
            self.parameter(name)
        return {p.name: p.check(given.get(p.name, p.default)) for p in self.parameters}

    def run(
        self,
        inputs: Sequence[Geo | Sequence[Geo] | None],
        values: Mapping[str, Any],
        dials: Mapping[str, Any] | None = None,
        ties: Mapping[str, Mapping[str, Any]] | None = None,
    ) -> tuple[Geo, ...]:
        """Run on checked ``values``; returns a Geo per output.

        ``inputs`` holds a Geo per input, a sequence of them where it takes many, or None for an optional one. All are
        brought into the space of the first one, unless a parameter ``space`` says that each keeps its own.
        """
        if self.deprecated:
            self.deprecated.tell(stacklevel=4)
        declared = self.inputs_for(values)
        given = self._apart(inputs) if values.get("space") == "own" else self._in_one_space(declared, inputs)
        named = dict(zip((entry.name for entry in declared), given, strict=True))
        single = {name: geo for name, geo in named.items() if geo is None or isinstance(geo, Geo)}
        resolved: dict[str, Any] = {}
        with span("resolve"):
            for parameter in self.parameters:
                context = Context(single, dials or {}, resolved, ties or {})
                resolved[parameter.name] = parameter.resolve(values[parameter.name], context)
        with made_by(self.name, resolved.get("seed", 0)), span("body"):
            result = self.body(*given, **resolved)
        made = result if isinstance(result, tuple) else (result,)
        tell_of_numbers(given, made)
        tell_of_instances(self.parameters, single, values)
        return made

    @staticmethod
    def _apart(inputs: Sequence[Geo | Sequence[Geo] | None]) -> list[Geo | Sequence[Geo] | None]:
        """Leave out the places of all geometries but the first, so that they stand where their own space says."""
        first, *others = inputs
        return [first, *(without_place(one) if isinstance(one, Geo) else one for one in others)]

    @staticmethod
    def _in_one_space(
        declared: Sequence[Input], inputs: Sequence[Geo | Sequence[Geo] | None]
    ) -> list[Geo | Sequence[Geo] | None]:
        """Bring all geometries to where they stand as seen from the first one."""
        flat = [geo for entry in inputs for geo in ([entry] if isinstance(entry, Geo) else entry or [])]
        if len(flat) < 2:
            return list(inputs)
        seen: list[Geo | Sequence[Geo] | None] = []
        for entry, given in zip(declared, inputs, strict=True):
            if given is None or entry.own_space:
                seen.append(given)
            elif isinstance(given, Geo):
                seen.append(in_space_of(given, flat[0]))
            else:
                seen.append([in_space_of(geo, flat[0]) for geo in given])
        return seen

    def __call__(self, *geometries: Geo | Sequence[Geo], **named: Any) -> Any:
        """Return a Geo, or a tuple with one per output if there are several.

        Geometries come first, in the order of the inputs, or by the name of their input; an input that takes many also
        takes a list. Parameters come by name.
        """
        known = {parameter.name for parameter in self.parameters}
        by_name = {name: given for name, given in named.items() if name not in known and _is_geometry(given)}
        parameters = {name: given for name, given in named.items() if name not in by_name}
        for name in parameters:
            self.parameter(name)
        values = self.check(parameters)
        inputs = self.inputs_for(values)
        for name in by_name:
            if name not in (there := [entry.name for entry in inputs]):
                raise GeometryError(f"{self.label} has no input '{name}'; {_near(name, there)}")
        made = self.run(self._sort_inputs(geometries, by_name, inputs), values)
        return made[0] if len(self.outputs) == 1 else made

    def _sort_inputs(
        self, given: Sequence[Geo | Sequence[Geo]], by_name: Mapping[str, Any], inputs: Sequence[Input]
    ) -> list[Geo | Sequence[Geo] | None]:
        """Return what each input gets: what was given for it by name, and the rest in order."""
        left = [entry for entry in inputs if entry.name not in by_name]
        named = iter(self._in_order(given, left))
        return [_as_taken(by_name[entry.name], entry) if entry.name in by_name else next(named) for entry in inputs]

    def _in_order(
        self, given: Sequence[Geo | Sequence[Geo]], inputs: Sequence[Input]
    ) -> list[Geo | Sequence[Geo] | None]:
        geometries: list[Geo] = []
        for entry in given:
            if not _is_geometry(entry):
                raise GeometryError(f"{self.label} takes geometries first and parameters by name, not {entry!r}")
            geometries += [entry] if isinstance(entry, Geo) else entry
        single = [entry for entry in inputs if not entry.many]
        many = len(single) < len(inputs)
        least = sum(not entry.optional for entry in single)
        if len(geometries) < least or (len(geometries) > len(single) and not many):
            names = (
                ", ".join(entry.name + ("…" if entry.many else "?" if entry.optional else "") for entry in inputs)
                or "none"
            )
            raise GeometryError(f"{self.label} takes {len(single)} geometries ({names}), not {len(geometries)}")
        sorted_: list[Geo | Sequence[Geo] | None] = list(geometries[: len(single)])
        sorted_ += [None] * (len(single) - len(sorted_))
        return [*sorted_, list(geometries[len(single) :])] if many else sorted_

    def __repr__(self) -> str:
        return f"ops.{self.name}{signature_of(self)}"

    def describe(self) -> dict[str, Any]:
        """Return the declaration as plain data."""
        return {
            "name": self.name,
            "label": self.label,
            "family": self.family,
            "summary": self.summary,
            "description": self.description,
            "carries": self.carries,
            "keywords": list(self.keywords),
            "related": list(self.related),
            "version": self.version,
            "inputs": [{"name": i.name, "help": i.help, "many": i.many, "optional": i.optional} for i in self.inputs],
            "holds_graph": self.holds_graph,
            "makes_value": self.writes is not None,
            "declares_inputs": self.more_inputs is not None,
            "outputs": [{"name": o.name, "help": o.help} for o in self.outputs],
            "parameters": [parameter.describe() for parameter in self.parameters],
        }


Operator.__doc__ = _OfEach(docstring_of, Operator.__doc__)  # type: ignore[assignment]  # a descriptor, read as a text
Operator.__signature__ = _OfEach(signature_of, inspect.signature(Operator))  # type: ignore[attr-defined]  # Python's hook


def _near(name: str, names: Sequence[str]) -> str:
    close = get_close_matches(name, names, 2, 0.5)
    return f"did you mean {' or '.join(close)}?" if close else f"it has {', '.join(names) or 'none'}"


def _is_geometry(given: Any) -> bool:
    return isinstance(given, Geo) or (
        isinstance(given, (list, tuple)) and len(given) > 0 and all(isinstance(one, Geo) for one in given)
    )


def _as_taken(given: Geo | Sequence[Geo], entry: Input) -> Geo | Sequence[Geo]:
    """Return what was given by name as its input takes it: a list where it takes many, else one."""
    if entry.many:
        return [given] if isinstance(given, Geo) else list(given)
    if isinstance(given, Geo):
        return given
    raise GeometryError(f"{entry.name} takes one geometry, not {len(given)}; join them first")


def _sorted_into(
    sections: Mapping[str, Sequence[str]], parameters: Sequence[Parameter], name: str
) -> tuple[Parameter, ...]:
    """Return the parameters with the section of each; TypeError for one that is not there or in two sections."""
    section = {parameter: title for title, names in sections.items() for parameter in names}
    known = {parameter.name for parameter in parameters}
    if not section.keys() <= known or len(section) != sum(map(len, sections.values())):
        raise TypeError(f"operator {name}: its sections name what is not there, or one parameter twice")
    return tuple(replace(parameter, section=section.get(parameter.name, "")) for parameter in parameters)


def operator(
    name: str,
    *,
    family: str,
    parameters: Sequence[Parameter],
    carries: str,
    inputs: Sequence[Input] = (Input(),),
    outputs: Sequence[Output] = (Output(),),
    keywords: Sequence[str] = (),
    example: str = "",
    related: Sequence[str] = (),
    version: int = 1,
    more_inputs: MoreInputs | None = None,
    writes: Callable[..., str] | None = None,
    brings: Brings | None = None,
    sections: Mapping[str, Sequence[str]] | None = None,
    frames: Frames | None = None,
    may_look: MayLook | None = None,
    needs: Needs | None = None,
    remembers: bool = False,
    holds_graph: bool = False,
    deprecated: Deprecation | None = None,
) -> Callable[[Function], Function]:
    """Declare the decorated function as an operator.

    ``writes`` makes it a value node: it writes an expression and no geometry is made.
    ``more_inputs`` names inputs that depend on parameter values; they follow the declared ones.
    ``brings`` names what checks may find in a healthy result, see :class:`Operator`.
    ``frames``, ``may_look`` and ``remembers`` are for operators that look at other frames, see :class:`Operator`.
    ``needs`` is for operators that need only one of the geometries that come in, see :class:`Operator`.
    ``holds_graph`` says that its nodes hold a graph, which gives it inputs, outputs and dials.
    ``deprecated`` says that it goes: each use warns, and its pages tell.
    ``sections`` puts parameters under headings that are closed at first, by name; all others are the main ones.

    The first line of its docstring is the summary. Its positional arguments are the inputs, its keyword-only
    arguments the parameters; a mismatch is an error at import.
    """

    def register(body: Function) -> Function:
        signature = inspect.signature(body).parameters.values()
        takes = [p.name for p in signature if p.kind is inspect.Parameter.KEYWORD_ONLY]
        if takes != [parameter.name for parameter in parameters]:
            raise TypeError(f"operator {name}: declared parameters differ from the function's: {takes}")
        if name in OPERATORS:
            raise TypeError(f"operator {name} is declared twice")
        summary, _, rest = inspect.cleandoc(body.__doc__ or "").partition("\n")
        made = Operator(
            name,
            family,
            summary.strip().rstrip("."),
            f"{deprecated.text}.\n\n{rest.strip()}" if deprecated else rest.strip(),
            tuple(inputs),
            _sorted_into(sections or {}, parameters, name),
            carries,
            tuple(keywords),
            version,
            body,
            inspect.cleandoc(example),
            tuple(related),
            tuple(outputs),
            more_inputs,
            writes,
            brings=brings or {},
            frames=frames,
            may_look=may_look,
            needs=needs,
            remembers=remembers,
            holds_graph=holds_graph,
            deprecated=deprecated,
        )
        for parameter in made.parameters:
            parameter.check(parameter.default)
        OPERATORS[name] = made
        return body

    return register
