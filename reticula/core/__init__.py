"""The computation: geometry, the language, operators and graphs. No interface code.

>>> from reticula.core import Geo, ops
>>> tile = ops.grid(size=(2, 2), cells=(4, 4))
>>> raised = ops.extrude(tile, where="position.x > 0", distance="0.2 + 0.1 * noise(position * 3)")
"""

from reticula.core.geometry import Geo
from reticula.core.language import run_script
from reticula.core.operators import ops
from reticula.core.packages import load_package

__all__ = ["Geo", "load_package", "ops", "run_script"]
