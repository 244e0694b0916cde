"""A disk that fills up while people edit: refusals say so, reading goes on, and all is well once there is room."""

from __future__ import annotations

import subprocess
import time
import urllib.error
import uuid
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from campaign.installation import Installation, patiently

__all__ = ["FullDisk", "run_full_disk", "small_disk"]

MEGABYTES = 900
NODE = {"operator": "script", "parameters": {"source": "here.a = 1"}}
LINE = "# nothing but a long remark, so that the log of edits grows\n" * 300


@dataclass
class FullDisk:
    """Edits kept and lost, answers while it was full by status, reads that failed, seconds until edits went on."""

    edits: int = 0
    edits_lost: int = 0
    answers: Counter[str] = field(default_factory=Counter)
    reads: int = 0
    reads_failed: int = 0
    back: float = 0.0


@contextmanager
def small_disk(folder: Path) -> Iterator[Path | None]:
    """Mount a small disk in memory; None where that is not allowed."""
    folder.mkdir(parents=True, exist_ok=True)
    mount = ["mount", "-t", "tmpfs", "-o", f"size={MEGABYTES}M", "none", str(folder)]
    if subprocess.run(mount, capture_output=True, check=False).returncode:
        yield None
        return
    try:
        yield folder
    finally:
        subprocess.run(["umount", "-l", str(folder)], check=False)


def run_full_disk(place: Installation, seconds: float) -> FullDisk:
    """Fill the disk of an installation for some seconds, and give the room back."""
    found, kept = FullDisk(), []
    client = place.client
    project = client.post("/api/projects", {"title": "Full"})["id"]
    document = {"format": "reticula graph", "version": 1, "dials": {}, "looking_at": "a", "nodes": {"a": NODE}}
    graph = client.post(f"/api/projects/{project}/graphs", {"title": "G", "document": document})
    path, revision = f"/api/graphs/{graph['id']}", graph["revision"]

    def edit() -> None:
        nonlocal revision
        label = f"edit {len(kept)}"
        patch = [{"op": "replace", "path": "/nodes/a/parameters/source", "value": f"# {label}\n{LINE}"}]
        body: dict[str, Any] = {"revision": revision, "patch": patch, "label": label, "key": uuid.uuid4().hex}
        revision = client.post(f"{path}/edits", body)["revision"]
        kept.append(label)

    for _ in range(20):
        edit()
    filler = place.var / "filler"
    _fill(filler)
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        for name, ask in (("edit", edit), ("read", lambda: client.get(path))):
            try:
                ask()
                status = "200"
            except urllib.error.HTTPError as error:
                status = str(error.code)
            except OSError:
                status = "away"
            if name == "edit":
                found.answers[status] += 1
            else:
                found.reads += 1
                found.reads_failed += status != "200"
        _fill(filler)
        time.sleep(0.3)
    filler.unlink()
    began = time.monotonic()
    revision = patiently(lambda: client.get(path), began + 300)[0]["revision"]
    patiently(edit, began + 300)
    found.back = time.monotonic() - began
    log = {one["label"] for one in client.get(f"{path}/edits")["edits"]}
    found.edits, found.edits_lost = len(kept), len(set(kept) - log)
    return found


def _fill(filler: Path) -> None:
    """Take what room is left."""
    try:
        with filler.open("ab", buffering=0) as file:
            while True:
                file.write(b"\0" * 65536)
    except OSError:
        return
