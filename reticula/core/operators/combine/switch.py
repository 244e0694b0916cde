"""Switch: one of several geometries, chosen by a value."""

from __future__ import annotations

from collections.abc import Sequence

from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Integer, Toggle

__all__ = ["switch"]


@operator(
    "switch",
    family="combine",
    inputs=(Input("choices", "geometries to choose from, in order", many=True),),
    keywords=("choose", "select", "if", "branch", "either", "variant"),
    carries="Carries all of the chosen one.",
    parameters=(
        Integer("chosen", 0, "number of the geometry that is passed on, from 0", soft=(0, 5), low=0),
        Toggle("around", False, "begin again with the first one where the number is too large"),
    ),
)
def switch(choices: Sequence[Geo], *, chosen: int, around: bool) -> Geo:
    """Pass one of several geometries on, by its number."""
    if not choices:
        raise ParameterError("chosen", "there is nothing to choose from; connect geometries")
    number = chosen % len(choices) if around else chosen
    if number >= len(choices):
        raise ParameterError(
            "chosen", f"{chosen} is too large; there are {len(choices)} geometries, 0 to {len(choices) - 1}"
        )
    return choices[number]
