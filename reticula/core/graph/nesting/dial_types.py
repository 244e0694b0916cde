"""The types of dials: for each, how a dial of it becomes a parameter."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any, cast

from reticula.core.errors import GraphError
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

__all__ = ["DIAL_TYPES", "Dial", "parameter_of_dial"]

Dial = Mapping[str, Any]


def parameter_of_dial(name: str, dial: Dial) -> Parameter:
    """Return the parameter that a dial stands for, without regard to where it is shown; raise GraphError for an
    unknown type.
    """
    make = DIAL_TYPES.get(dial["type"])
    if make is None:
        raise GraphError(f"the dial '{name}' has the type '{dial['type']}'; there are {', '.join(DIAL_TYPES)}")
    return make(dial, name=name, default=dial.get("default", dial["value"]), help=dial.get("help", ""))


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


DIAL_TYPES: Mapping[str, Callable[..., Parameter]] = {
    "number": _number,
    "integer": _number,
    "toggle": lambda dial, **common: Toggle(**common),
    "vector": _vector,
    "color": lambda dial, **common: Color(**common),
    "choice": _choice,
    "text": lambda dial, **common: Text(**common),
    "new name": lambda dial, **common: GroupName(**common, optional=True),
    "attribute": lambda dial, **common: AttributeName(**common, optional=True, of=_of(dial)),
    "names": lambda dial, **common: Names(**common, of=_of(dial), optional=True),
    "shape": lambda dial, **common: Shape(**common),
    "where": lambda dial, **common: Selection(**common, **_elements(dial)),
    "varying": _per_element,
    "response curve": _response,
    "gradient": lambda dial, **common: ColorGradient(**common),
    "picked": lambda dial, **common: Picked(**common, **_elements(dial)),
    "places": lambda dial, **common: Places(**common, unit=dial.get("unit", ""), handle=Handle("places")),
    "script": lambda dial, **common: Code(**common),
}
"""What a dial of each type becomes: a function of the dial and of the parameter's name, default and help."""
