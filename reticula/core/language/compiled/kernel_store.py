"""Generated kernels on disk: written, built in a process of their own, and loaded again."""

from __future__ import annotations

import contextlib
import hashlib
import importlib.util
import json
import os
import subprocess
import sys
import time
from collections import OrderedDict
from functools import cache
from importlib.metadata import version
from pathlib import Path
from types import ModuleType
from typing import Any

from reticula.core.language.compiled.emitted import Emitted
from reticula.core.spans import span

__all__ = ["Builder", "builder", "compile_here", "kernels_folder"]

MOST_LOADED = 64
MOST_KEPT = 2000
MOST_BUILDING = 180.0
"""Seconds that building one kernel may take; after that the script stays on the vector back end."""
SOURCES = (
    "language/compiled/runtime.py",
    "language/math_kernels.py",
    "language/matrix_kernels.py",
    "language/profile_kernels.py",
    "language/noise.py",
    "geometry/mesh/identity.py",
    "spatial/kdtree.py",
    "spatial/nearest_corner.py",
    "spatial/surface.py",
    "spatial/tree.py",
    "spatial/winding.py",
    "language/limits.py",
)
"""Files whose code kernels call: when one changes, kernels are built anew, as when their own source does."""


def kernels_folder() -> Path:
    """Return where kernels are kept: ``RETICULA_KERNELS``, or the user's cache."""
    given = os.environ.get("RETICULA_KERNELS")
    base = Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache")
    return Path(given) if given else base / "reticula" / "kernels"


@cache
def _version() -> str:
    core = Path(__file__).parents[2]
    hasher = hashlib.blake2b(version("numba").encode(), digest_size=8)
    for name in SOURCES:
        hasher.update((core / name).read_bytes())
    return hasher.hexdigest()


class Builder:
    """Builds kernels one after the other, the newest first, each in a process of its own."""

    def __init__(self) -> None:
        self.loaded: OrderedDict[str, Any] = OrderedDict()
        self.failed: set[str] = set()
        self.enabled = os.environ.get("RETICULA_BUILD", "on") != "off"
        self.running: tuple[str, subprocess.Popen[bytes], float] | None = None
        self.waiting: OrderedDict[str, Emitted] = OrderedDict()

    def path(self, emitted: Emitted) -> Path:
        return kernels_folder() / f"k{emitted.key}_{_version()}.py"

    def find(self, emitted: Emitted) -> Any | None:
        """Return a kernel that is built, or None."""
        path = self.path(emitted)
        name = path.stem
        if name in self.loaded:
            self.loaded.move_to_end(name)
            return self.loaded[name]
        self._look()
        if not emitted.kept or not path.with_suffix(".built").exists():
            return None
        try:
            kernel = _load(path, emitted.signature)
        except Exception:  # a file that was cut off or comes from another machine: it is built again
            _forget(path)
            return None
        return self._keep(name, kernel)

    def build_now(self, emitted: Emitted) -> Any:
        """Build a kernel here and wait for it."""
        found = self.find(emitted)
        if found is not None:
            return found
        path = self.path(emitted)
        _write(path, emitted)
        return self._keep(path.stem, compile_here(path) if emitted.kept else _load(path, emitted.signature))

    def ask_for(self, emitted: Emitted) -> None:
        """Have a kernel built in the background; does nothing if that is under way or has failed before."""
        name = self.path(emitted).stem
        self._look()
        if (
            not self.enabled
            or not emitted.kept
            or name in self.failed
            or name in self.waiting
            or (self.running and self.running[0] == name)
        ):
            return
        self.waiting[name] = emitted
        while len(self.waiting) > 4:
            self.waiting.popitem(last=False)
        self._next()

    def _keep(self, name: str, kernel: Any) -> Any:
        self.loaded[name] = kernel
        while len(self.loaded) > MOST_LOADED:
            self.loaded.popitem(last=False)
        return kernel

    def _look(self) -> None:
        """See whether the running build has ended, and begin the next one."""
        if self.running is not None:
            name, process, begin = self.running
            if process.poll() is None:
                if time.monotonic() - begin < MOST_BUILDING:
                    return
                process.kill()
                process.wait()
            if process.returncode:
                self.failed.add(name)
            self.running = None
        self._next()

    def _next(self) -> None:
        if self.running is not None or not self.waiting:
            return
        name, emitted = self.waiting.popitem()
        path = self.path(emitted)
        _write(path, emitted)
        command = [sys.executable, "-m", "reticula.core.language.compiled.build_kernel", str(path)]
        quiet: dict[str, Any] = {
            "stdin": subprocess.DEVNULL,
            "stdout": subprocess.DEVNULL,
            "stderr": subprocess.DEVNULL,
        }
        self.running = name, subprocess.Popen(command, **quiet), time.monotonic()


def _write(path: Path, emitted: Emitted) -> None:
    path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    _tidy(path.parent)
    for target, text in ((path.with_suffix(".json"), json.dumps(emitted.signature)), (path, emitted.source)):
        if not target.exists():
            draft = target.with_name(f"{target.name}.{os.getpid()}")
            draft.write_text(text)
            draft.replace(target)


def _tidy(folder: Path) -> None:
    """Keep the folder small: the kernels used longest ago go first."""
    kept = sorted(folder.glob("k*.py"), key=lambda path: path.stat().st_mtime)
    for path in kept[: max(0, len(kept) - MOST_KEPT)]:
        _forget(path)


def _forget(path: Path) -> None:
    for left in [
        path,
        path.with_suffix(".json"),
        path.with_suffix(".built"),
        *(path.parent / "__pycache__").glob(f"{path.stem}.*"),
    ]:
        with contextlib.suppress(FileNotFoundError):
            left.unlink()


def compile_here(path: Path) -> Any:
    """Build the kernel whose source and types were written to ``path``; returns it, ready to be called."""
    kernel = _load(path, json.loads(path.with_suffix(".json").read_text()))
    path.with_suffix(".built").touch()
    return kernel


def _load(path: Path, signature: list[str]) -> Any:
    with span("kernel"):
        return _compiled(path, signature)


def _compiled(path: Path, signature: list[str]) -> Any:
    module = _module(path)
    module.kernel.compile(tuple(_numba_type(type) for type in signature))
    return module.kernel


def _module(path: Path) -> ModuleType:
    spec = importlib.util.spec_from_file_location(path.stem, path)
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    sys.modules[path.stem] = module
    spec.loader.exec_module(module)
    return module


def _numba_type(written: str) -> Any:
    import numba

    what, *rest = written.split()
    if not rest:
        return getattr(numba.types, what)
    dtype = numba.types.boolean if rest[0] == "bool" else getattr(numba.types, rest[0])
    return numba.types.Array(dtype, int(rest[1]), "C", readonly=what == "reads")


@cache
def builder() -> Builder:
    """Return the one builder of this process."""
    return Builder()
