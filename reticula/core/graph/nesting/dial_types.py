"""The types of dials: for each, how a dial of it becomes a parameter."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, cast

from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.time.keys import first_value
from reticula.core.graph.time.tables import is_following, is_timed
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    GroupName,
    Handle,
    Integer,
    Names,
    Number,
    Parameter,
    PerElement,
    Selection,
    Shape,
    Text,
    Toggle,
    Vector,
)
from reticula.core.operators.scripting.controls import Code, Color
from reticula.core.operators.shared.picked import Picked, Places
from reticula.core.operators.shared.profiles.gradient import ColorGradient
from reticula.core.operators.shared.profiles.response_curve import ResponseCurve

__all__ = ["DIAL_TYPES", "Dial", "DialType", "check_following", "parameter_of_dial", "type_of_dial", "usual_value"]

Dial = Mapping[str, Any]


def type_of_dial(name: str, dial: Dial) -> DialType:
    """Return the type of a dial; raise GraphError naming those that exist."""
    found = DIAL_TYPES.get(dial["type"])
    if found is None:
        raise GraphError(f"the dial '{name}' has the type '{dial['type']}'; there are {', '.join(DIAL_TYPES)}")
    return found


def parameter_of_dial(name: str, dial: Dial) -> Parameter:
    """Return the parameter that a dial stands for, without regard to where it is shown; raise GraphError for an
    unknown type.
    """
    usual = usual_value(dial)
    plain = usual.get("otherwise") if is_following(usual) else first_value(usual)
    return type_of_dial(name, dial).make(dial, name=name, default=plain, help=dial.get("help", ""))


def usual_value(dial: Dial) -> Any:
    """Return what a dial is, as it is stored, where its graph is used and nothing is set."""
    value = dial["value"]
    return value if is_timed(value) else dial.get("default", value)


def check_following(name: str, dial: Dial) -> None:
    """Raise ParameterError if a dial is of a type that no table has values for."""
    if not type_of_dial(name, dial).follows:
        those = ", ".join(known for known, kind in DIAL_TYPES.items() if kind.follows)
        raise ParameterError(name, f"a dial of type {dial['type']} follows no table; those of {those} do")


def _limits(dial: Dial) -> dict[str, Any]:
    low, high = dial.get("low"), dial.get("high")
    return {"low": -math.inf if low is None else float(low), "high": math.inf if high is None else float(high)}


def _soft(dial: Dial) -> tuple[float, float]:
    return cast(tuple[float, float], tuple(dial.get("soft") or (0.0, 1.0)))


def _handle(dial: Dial) -> Handle | None:
    """How a dial is dragged, as the parameter was that it was made of."""
    told = dial.get("handle")
    return Handle(told["shape"], (), told.get("space", "own")) if told else None


def _number(dial: Dial, **common: Any) -> Parameter:
    kind, step = (Integer, 1) if dial["type"] == "integer" else (Number, 0.01)
    unit = dial.get("unit", "")
    return kind(**common, unit=unit, soft=_soft(dial), step=dial.get("step", step), **_limits(dial))


def _vector(dial: Dial, *, default: Any, **common: Any) -> Parameter:
    """A vector; three numbers in m are a place, and dragged as one."""
    unit = dial.get("unit", "")
    is_place = unit == "m" and isinstance(default, list) and len(default) == 3
    return Vector(
        **common,
        default=default,
        unit=unit,
        soft=_soft(dial),
        low=_limits(dial)["low"],
        whole=dial.get("whole", False),
        step=dial.get("step", 0.01),
        handle=_handle(dial) or (Handle("place") if is_place else None),
    )


def _choice(dial: Dial, **common: Any) -> Parameter:
    return Choice(**common, options={entry["value"]: entry.get("help", "") for entry in dial.get("options", [])})


def _per_element(dial: Dial, **common: Any) -> Parameter:
    return PerElement(
        **common,
        **_elements(dial),
        unit=dial.get("unit", ""),
        type=dial.get("holds", "number"),
        soft=_soft(dial),
        low=_limits(dial)["low"],
        handle=_handle(dial),
    )


def _response(dial: Dial, **common: Any) -> Parameter:
    low = dial.get("low")
    return ResponseCurve(**common, soft=_soft(dial), low=0.0 if low is None else float(low))


def _elements(dial: Dial) -> dict[str, Any]:
    """On which elements, and of which input."""
    return {"on": dial.get("on", "face"), "of": dial.get("of", "geo")}


def _of(dial: Dial) -> str:
    return str(dial.get("of", "geo"))


@dataclass(frozen=True)
class DialType:
    """A type of dials.

    ``make`` turns a dial into a parameter, from the parameter's name, default and help as well. A ``plain`` one holds
    no formula; a ``ranged`` one has limits, a range for its slider and a step; ``fresh`` is what one begins with that
    is made anew (None: such dials are only made of a parameter). One that ``follows`` may get its value from a table.
    """

    make: Callable[..., Parameter]
    plain: bool = False
    ranged: bool = False
    fresh: Any = None
    follows: bool = False


DIAL_TYPES: Mapping[str, DialType] = {
    "number": DialType(_number, plain=True, ranged=True, fresh=0.5, follows=True),
    "integer": DialType(_number, plain=True, ranged=True, fresh=1, follows=True),
    "toggle": DialType(lambda dial, **common: Toggle(**common), plain=True, fresh=False, follows=True),
    "vector": DialType(_vector, ranged=True, fresh=[0, 0, 0], follows=True),
    "color": DialType(lambda dial, **common: Color(**common), fresh=[1, 1, 1, 1], follows=True),
    "choice": DialType(_choice, fresh="", follows=True),
    "text": DialType(lambda dial, **common: Text(**common), fresh="", follows=True),
    "new name": DialType(lambda dial, **common: GroupName(**common, optional=True)),
    "attribute": DialType(lambda dial, **common: AttributeName(**common, optional=True, of=_of(dial))),
    "names": DialType(lambda dial, **common: Names(**common, of=_of(dial), optional=True)),
    "shape": DialType(lambda dial, **common: Shape(**common)),
    "where": DialType(lambda dial, **common: Selection(**common, **_elements(dial))),
    "varying": DialType(_per_element, ranged=True),
    "response curve": DialType(_response, ranged=True),
    "gradient": DialType(lambda dial, **common: ColorGradient(**common)),
    "picked": DialType(lambda dial, **common: Picked(**common, **_elements(dial))),
    "places": DialType(
        lambda dial, **common: Places(**common, unit=dial.get("unit", ""), handle=Handle("places")),
    ),
    "script": DialType(lambda dial, **common: Code(**common)),
}
"""All types of dials: whoever makes, checks or shows dials goes by this table."""
