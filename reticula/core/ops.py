"""All operators as functions: ``ops.extrude(geo, distance=0.1)``.

Geometries come first, parameters by name. A parameter that varies takes a formula as text. ``help(ops.extrude)`` tells
of one, ``dir(ops)`` names them all; declarations are read when the first one is asked for. ``ops.pyi`` is made from
them, for editors and type checkers.
"""

from typing import Any


def __getattr__(name: str) -> Any:
    if name.startswith("__"):
        raise AttributeError(name)
    from reticula.core.operators import find_operator

    try:
        return find_operator(name)
    except KeyError as error:
        raise AttributeError(error.args[0]) from None


def __dir__() -> list[str]:
    from reticula.core.operators import OPERATORS

    return sorted(OPERATORS)
