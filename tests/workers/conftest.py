"""A folder of buffers."""

from pathlib import Path

import pytest

from reticula.workers.buffers import BufferFiles


@pytest.fixture
def buffers(tmp_path: Path) -> BufferFiles:
    return BufferFiles(tmp_path / "buffers")
