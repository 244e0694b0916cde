"""Building a kernel aside: a process of its own leaves the kernel on disk, ready to be loaded."""

import subprocess
import sys
from pathlib import Path

import pytest

from reticula.core.language.compiled import kernel_store
from tests.core.language.programs.checked import code_of


@pytest.mark.slow
def test_a_process_of_its_own_builds_it(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("RETICULA_KERNELS", str(tmp_path))
    emitted = code_of("here.a = cover + 1")
    maker = kernel_store.Builder()
    path = maker.path(emitted)
    kernel_store._write(path, emitted)
    subprocess.run(
        [sys.executable, "-m", "reticula.core.language.compiled.build_kernel", str(path)], check=True, timeout=180
    )
    assert path.with_suffix(".built").exists()
    assert maker.find(emitted) is not None


def test_without_a_path_it_ends_with_an_error() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "reticula.core.language.compiled.build_kernel"], capture_output=True, check=False
    )
    assert done.returncode != 0
