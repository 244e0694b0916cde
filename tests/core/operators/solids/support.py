"""What the tests of this folder share."""

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting


def boolean(a: Geo, b: Geo, operation: str) -> Geo:
    with collecting():
        return ops.boolean(a, b, operation=operation)
