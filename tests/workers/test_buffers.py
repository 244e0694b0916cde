"""Buffers: equal content once, types apart, old ones make room."""

import os
import time
from pathlib import Path

import numpy as np
import pytest

from reticula.workers.buffers import BufferFiles
from tests.workers.values import values_of


def test_equal_content_has_one_name_and_types_do_not_mix(buffers: BufferFiles) -> None:
    first = buffers.keep(np.arange(3, dtype="<u4"))
    assert buffers.keep(np.arange(3, dtype="<u4")) == first
    assert buffers.keep(np.arange(3, dtype="<f4"))["digest"] != first["digest"]
    assert values_of(buffers, first).tolist() == [0, 1, 2]
    for wrong in ("../../etc/passwd", "0" * 31, "Z" * 32, ""):
        with pytest.raises(ValueError, match="not a digest"):
            buffers.path(wrong)


def test_the_oldest_go_first_but_none_that_is_fresh(tmp_path: Path) -> None:
    buffers = BufferFiles(tmp_path, budget=1000)
    refs = [buffers.keep(np.full(100, i, "<f4")) for i in range(5)]
    buffers.tidy()
    assert len(list(tmp_path.iterdir())) == 5, "all were used within ten minutes"
    for age, ref in enumerate(refs):
        past = time.time() - 10_000 + age
        os.utime(buffers.path(ref["digest"]), (past, past))
    buffers.keep(np.full(100, 1, "<f4"))
    buffers.tidy()
    assert [buffers.path(ref["digest"]).exists() for ref in refs] == [False, True, False, False, True]
