"""The computation: geometry, the language, operators and graphs. No interface code.

>>> from reticula.core import Geo, ops
>>> tile = ops.grid(size=(2, 2), cells=(4, 4))
>>> raised = ops.extrude(tile, where="position.x > 0", distance="0.2 + 0.1 * noise(position * 3)")
>>> raised
<Geo 37 points, 28 faces; edge: rim flag; corner: uv vec2; face: top flag, side flag>

What is named here is loaded when it is first asked for.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from reticula.core import ops
    from reticula.core.geometry import Geo
    from reticula.core.language import run_script
    from reticula.core.packages import load_package

__all__ = ["Geo", "load_package", "ops", "run_script"]

_HOME = {"Geo": "geometry", "load_package": "packages", "ops": "ops", "run_script": "language"}


def __getattr__(name: str) -> Any:
    if name not in _HOME:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    module = import_module(f"{__name__}.{_HOME[name]}")
    return module if name == "ops" else getattr(module, name)


def __dir__() -> list[str]:
    return sorted({*globals(), *__all__})
