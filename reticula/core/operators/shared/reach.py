"""A largest distance that may be set: the switch and the length behind it."""

from __future__ import annotations

from reticula.core.operators.declaration.parameters import Number, Parameter, Toggle

__all__ = ["limited_reach"]


def limited_reach(share: str, help: str, *, switch: str, most: float) -> tuple[Parameter, ...]:
    """Return the parameters ``limit_reach``, off unless it is set, and ``reach``: a length in m, by default a ``share``
    of the shape's size, with a slider up to ``most`` m.
    """
    reach = {"formula": f"{share} * extent"}
    return (
        Toggle("limit_reach", False, switch),
        Number("reach", reach, help, unit="m", soft=(0, most), low=0.0, shown_when=("limit_reach", True)),
    )
