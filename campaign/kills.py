"""Random kills of every process while people edit and upload: nothing that was acknowledged may be lost or doubled."""

from __future__ import annotations

import hashlib
import random
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from campaign.installation import PARTS, Installation, patiently

__all__ = ["Kills", "run_kills"]

WRITERS = 4
WEIGHTS = {"service": 4, "database": 3, "evaluator": 3, "depot": 1, "launcher": 2}
NODE = {"operator": "box", "parameters": {"size": [1.0, 1.0, 1.0]}}


@dataclass
class Kills:
    """What came of it: seconds until all was well again after each kill, by part; edits and uploads."""

    back: dict[str, list[float]] = field(default_factory=lambda: {part: [] for part in PARTS})
    edits: int = 0
    edits_lost: int = 0
    edits_doubled: int = 0
    uploads: int = 0
    uploads_lost: int = 0
    longest_edit: float = 0.0
    troubles: list[str] = field(default_factory=list)


class _Writer:
    """Somebody who edits a graph of their own without pause, and beside that uploads meshes."""

    def __init__(self, place: Installation, number: int, until: float) -> None:
        self.place, self.until = place, until
        self.kept: list[str] = []
        self.uploaded: dict[str, bytes] = {}
        self.longest = 0.0
        self.trouble = ""
        client = place.client
        self.project = client.post("/api/projects", {"title": f"Campaign {number}"})["id"]
        document = {"format": "reticula graph", "version": 1, "dials": {}, "looking_at": "a", "nodes": {"a": NODE}}
        self.graph = client.post(f"/api/projects/{self.project}/graphs", {"title": "G", "document": document})
        self.threads = [
            threading.Thread(target=self._go_on, args=(work,), daemon=True) for work in (self._edits, self._uploads)
        ]
        for thread in self.threads:
            thread.start()

    def _go_on(self, work: Callable[[], None]) -> None:
        try:
            work()
        except Exception as error:
            self.trouble = f"{type(error).__name__}: {error}"

    def _edits(self) -> None:
        rng = random.Random(self.graph["id"])
        revision = self.graph["revision"]
        while time.monotonic() < self.until:
            label = f"edit {len(self.kept)} {uuid.uuid4().hex[:8]}"
            patch = [{"op": "replace", "path": "/nodes/a/parameters/size", "value": [rng.random() + 0.1] * 3}]
            body = {"revision": revision, "patch": patch, "label": label, "key": uuid.uuid4().hex}
            made, took = patiently(lambda body=body: self._edit(body), self.until + 120)  # type: ignore[misc]
            revision = made["revision"]
            self.kept.append(label)
            self.longest = max(self.longest, took)
            time.sleep(0.05)

    def _uploads(self) -> None:
        rng = random.Random(self.project)
        while time.monotonic() < self.until:
            self._upload(rng)
            time.sleep(1.0)

    def _edit(self, body: dict[str, Any]) -> Any:
        return self.place.client.post(f"/api/graphs/{self.graph['id']}/edits", body)

    def _upload(self, rng: random.Random) -> None:
        rows = "".join(f"v {rng.random()} {rng.random()} {rng.random()}\n" for _ in range(30))
        data = (rows + "".join(f"f {3 * k + 1} {3 * k + 2} {3 * k + 3}\n" for k in range(10))).encode()
        path = f"/api/projects/{self.project}/assets"
        made, _ = patiently(lambda: self.place.client.upload(path, "reef.obj", data), self.until + 120)
        self.uploaded[made["id"]] = data

    def check(self, found: Kills) -> None:
        """Compare what was acknowledged with what is there."""
        for thread in self.threads:
            thread.join(180)
        log = [edit["label"] for edit in self.place.client.get(f"/api/graphs/{self.graph['id']}/edits")["edits"]]
        found.edits += len(self.kept)
        found.edits_lost += len(set(self.kept) - set(log))
        found.edits_doubled += len(log) - len(set(log))
        found.uploads += len(self.uploaded)
        for asset, data in self.uploaded.items():
            try:
                there = self.place.client.fetch(f"/api/assets/{asset}/content")
            except OSError:
                there = b""
            found.uploads_lost += hashlib.sha256(there).digest() != hashlib.sha256(data).digest()
        found.longest_edit = max(found.longest_edit, self.longest)
        if self.trouble:
            found.troubles.append(self.trouble)


def run_kills(place: Installation, seconds: float, seed: int) -> Kills:
    """Kill for some seconds, then look at what is there."""
    rng = random.Random(seed)
    found = Kills()
    until = time.monotonic() + seconds
    writers = [_Writer(place, number, until) for number in range(WRITERS)]
    while time.monotonic() < until:
        time.sleep(rng.random() * rng.choice([0.5, 0.5, 4.0]))
        part = rng.choices(PARTS, [WEIGHTS[part] for part in PARTS])[0]
        if place.kill(part, rng.choice) is None:
            continue
        began = time.monotonic()
        time.sleep(0.05)
        place.wait_until_well()
        found.back[part].append(time.monotonic() - began)
    place.wait_until_well()
    for writer in writers:
        writer.check(found)
    return found
