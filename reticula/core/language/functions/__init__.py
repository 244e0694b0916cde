"""The functions and operators of the language, one family per file.

Every entry says its types, its meaning, how NumPy does it on whole arrays and how compiled code does it on one element.
"""

from reticula.core.language.functions import (
    angles,
    arithmetic,
    colors,
    conversions,
    matrices,
    patterns,
    vectors,
)
from reticula.core.language.functions.symbols import OPERATORS
from reticula.core.language.functions.table import FUNCTIONS, Emitter, Function
from reticula.core.language.types import VECTORS

__all__ = ["FAMILIES", "FUNCTIONS", "OPERATORS", "VECTORS", "Emitter", "Function"]

FAMILIES = {
    "arithmetic": arithmetic.NAMES,
    "angles": angles.NAMES,
    "vectors": vectors.NAMES,
    "matrices": matrices.NAMES,
    "colours": colors.NAMES,
    "noise": patterns.NAMES,
    "types": conversions.NAMES,
}
"""The names of all functions by family; the symbols are in :data:`OPERATORS`."""
