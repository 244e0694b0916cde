"""What a killed predecessor left running on the same data."""

from __future__ import annotations

import contextlib
import os
import signal
import time
from collections.abc import Collection
from pathlib import Path

__all__ = ["end_orphans", "orphans_of"]

PATIENCE = 10.0
PARTS = ("reticula.service", "reticula.depot")


def orphans_of(var: Path) -> list[int]:
    """Return the services and depots that run on the data in ``var`` and are not ours."""
    found = []
    for entry in Path("/proc").iterdir():
        if not entry.name.isdigit() or int(entry.name) == os.getpid():
            continue
        try:
            command = (entry / "cmdline").read_bytes().decode(errors="replace").split("\0")
            settings = (entry / "environ").read_bytes().decode(errors="replace").split("\0")
        except OSError:
            continue
        named = any(part in command for part in PARTS)
        if named and (f"RETICULA_VAR={var}" in settings or str(var / "depot") in command):
            found.append(int(entry.name))
    return found


def end_orphans(var: Path, keep: Collection[int] = ()) -> None:
    """End what runs on the data in ``var``, except for ``keep``: politely, then not."""
    limit = time.monotonic() + PATIENCE
    asked: set[int] = set()
    while left := [pid for pid in orphans_of(var) if pid not in keep]:
        for pid in left:
            with contextlib.suppress(ProcessLookupError):
                if time.monotonic() > limit:
                    os.kill(pid, signal.SIGKILL)
                elif pid not in asked:
                    os.kill(pid, signal.SIGTERM)
                    asked.add(pid)
        time.sleep(0.1)
