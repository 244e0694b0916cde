"""Building kernels beforehand reaches what the first click needs."""

import subprocess
import sys

import pytest

from reticula.core import precompile as module
from reticula.core.operators import OPERATORS
from reticula.core.precompile import VARIANTS, precompile


def test_every_variant_names_an_operator_and_its_parameters() -> None:
    for name, parameters in VARIANTS:
        known = {parameter.name for parameter in OPERATORS[name].parameters}
        assert set(parameters) <= known
        OPERATORS[name].check(parameters)


def test_all_of_it_runs_and_says_how_long_it_took() -> None:
    assert 0 < precompile() < 600


def test_how_far_it_is_is_said_at_every_quarter(capsys: pytest.CaptureFixture[str]) -> None:
    for done in range(1, 131):
        module._say(done, 130)
    assert capsys.readouterr().out.split("\n") == ["  25 %", "  50 %", "  75 %", "  100 %", ""]


LARGE = """
import gc
import numpy as np
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.jit import Kernel
from reticula.core.operators import OPERATORS
from reticula.core.precompile import precompile

SLOW = {"boolean", "break_into_cells", "relax", "struts"}
precompile()

def built():
    found = [one for one in gc.get_objects() if isinstance(one, Kernel) and hasattr(one._ready, "signatures")]
    return {(one.__module__, one.__name__, str(types)) for one in found for types in one._ready.signatures}

before = built()
assert len(before) > 100
ball = ops.geodesic_sphere(frequency=50)
dots = Geo.of(np.random.default_rng(0).uniform(-1, 1, (9000, 3)))
small = ops.transform(ops.geodesic_sphere(frequency=5), move=(0.1, 0.2, 0.1))
with collecting():
    for name, entry in OPERATORS.items():
        if entry.inputs and name not in SLOW and entry.family not in ("operators of your own", "scripting"):
            for geo in (ball, dots):
                given = [geo] + [small] * (len(entry.inputs) - 1)
                try:
                    entry.run([[one] if wish.many else one for one, wish in zip(given, entry.inputs)], entry.check({}))
                except ReticulaError:
                    pass
print(sorted(built() - before))
"""


def test_nothing_is_left_to_be_compiled_for_large_shapes() -> None:
    """What is compiled at set-up, on small shapes, is all that large ones need: in a process of its own."""
    done = subprocess.run([sys.executable, "-c", LARGE], capture_output=True, text=True, timeout=600, check=False)
    assert done.stdout.strip() == "[]", done.stdout + done.stderr
