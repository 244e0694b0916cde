"""The generated code of the compiled back end, run by Python itself: the same code, without waiting for a compiler."""

from __future__ import annotations

import re
import warnings
from typing import Any
from unittest.mock import patch

import numpy as np

from reticula.core import Geo
from reticula.core.language import script
from reticula.core.language.compiled import executor
from reticula.core.language.compiled.emitted import Emitted
from reticula.core.language.math_kernels import ONE, of_one
from reticula.core.language.script import run_script


class _Numpy:
    """NumPy, but for functions whose last bits its own vectorized code rounds otherwise than compiled kernels do."""

    def __getattr__(self, name: str) -> Any:
        return (lambda x: of_one(name)(np.array([x]))[0]) if name in ONE else getattr(np, name)


def _as_python(emitted: Emitted) -> object:
    """Return the kernel as a Python function; small functions that it calls stay compiled."""
    source = re.sub(r"^@inline.*\n", "", emitted.source, flags=re.MULTILINE)
    namespace: dict[str, object] = {}
    exec(compile(source, "kernel", "exec"), namespace)
    namespace["np"] = _Numpy()
    return namespace["kernel"]


class _Stand:
    """Stands in for the builder."""

    def build_now(self, emitted: Emitted) -> object:
        return _as_python(emitted)


def run_interpreted(geo: Geo, source: str, **more: object) -> Geo:
    """Run a script through the code that would be compiled; what searches is compiled on the way, which takes time."""
    patient = patch.object(script, "MOST_SECONDS", 600.0)
    with patch.object(executor, "builder", _Stand), patient, warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)
        return run_script(geo, source, backend="compiled", **more)  # type: ignore[arg-type]
