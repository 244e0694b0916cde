"""Switch: one of several geometries, chosen by a value."""

from __future__ import annotations

from collections.abc import Sequence

from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Input, Once, operator
from reticula.core.operators.declaration.parameters import Integer, Toggle

__all__ = ["switch"]


def _needed(once: Once, count: int) -> int | None:
    """The number of the geometry that is passed on; None where it is too large, which is told when it runs."""
    number = int(once("chosen"))
    if count and once("around"):
        return number % count
    return number if number < count else None


@operator(
    "switch",
    family="combine",
    inputs=(Input("choices", "geometries to choose from, in order", many=True, own_space=True),),
    keywords=("choose", "select", "if", "branch", "either", "variant"),
    carries="Carries all of the chosen one.",
    example="""
        low = grid(cells=[4, 4])
        high = geodesic_sphere(frequency=8)
        switch(low, high, chosen=1)
    """,
    related=("switch_value", "split_by_group"),
    parameters=(
        Integer("chosen", 0, "number of the geometry that is passed on, from 0", soft=(0, 5), low=0),
        Toggle("around", False, "begin again with the first one where the number is too large"),
    ),
    version=2,
    needs=_needed,
)
def switch(choices: Sequence[Geo], *, chosen: int, around: bool) -> Geo:
    """Pass one of several geometries on, by its number.

    It is passed on as it is, with its own place. In a graph, what leads only to the others is not evaluated.
    """
    if not choices:
        raise ParameterError("chosen", "there is nothing to choose from; connect geometries")
    number = chosen % len(choices) if around else chosen
    if number >= len(choices):
        raise ParameterError(
            "chosen", f"{chosen} is too large; there are {len(choices)} geometries, 0 to {len(choices) - 1}"
        )
    return choices[number]
