"""The list of formats."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.formats.format import EVERYTHING


def test_those_that_keep_everything_come_first() -> None:
    kept = [known.keeps == EVERYTHING for known in FORMATS.values()]
    assert kept == sorted(kept, reverse=True)
    assert all(known.ending == ending for ending, known in FORMATS.items())


@pytest.mark.parametrize("ending", FORMATS)
def test_every_format_writes_and_reads_a_box_and_nothing(ending: str) -> None:
    with collecting():
        back = read_bytes(f"a.{ending}", write_bytes(ops.box(), f"a.{ending}"))
        write_bytes(Geo.empty(), f"a.{ending}")
    assert back.bounds == pytest.approx(ops.box().bounds)
