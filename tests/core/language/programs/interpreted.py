"""The generated code of the compiled back end, run by Python itself: the same code, without waiting for a compiler."""

from __future__ import annotations

import re
import warnings
from unittest.mock import patch

from reticula.core import Geo
from reticula.core.language.compiled import executor
from reticula.core.language.compiled.emitted import Emitted
from reticula.core.language.script import run_script


def _as_python(emitted: Emitted) -> object:
    """Return the kernel as a Python function; small functions that it calls stay compiled."""
    source = re.sub(r"^@njit.*\n", "", emitted.source, flags=re.MULTILINE)
    namespace: dict[str, object] = {}
    exec(compile(source, "kernel", "exec"), namespace)
    return namespace["kernel"]


class _Stand:
    """Stands in for the builder."""

    def build_now(self, emitted: Emitted) -> object:
        return _as_python(emitted)


def run_interpreted(geo: Geo, source: str, **more: object) -> Geo:
    """Run a script through the code that would be compiled."""
    with patch.object(executor, "builder", _Stand), warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)
        return run_script(geo, source, backend="compiled", **more)  # type: ignore[arg-type]
