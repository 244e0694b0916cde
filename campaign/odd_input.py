"""Mutated requests, files and packages, and hostile scripts, over HTTP: nothing is a fault of the service."""

from __future__ import annotations

import json
import random
import time
import urllib.error
import urllib.request
import uuid
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from campaign.installation import Installation
from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import WRITTEN, write_bytes
from tests.core.formats.damage import damaged
from tests.core.language.hostile_scripts import REFUSED, RUNAWAY
from tests.mutating import DOCUMENT, bodies, mutated

__all__ = ["OddInput", "run_odd_input"]

DEMO = Path(__file__).resolve().parents[1] / "demo"
SLOW = 10.0


@dataclass
class OddInput:
    """How many were sent of each kind, answers by status, those that were faults, and the slowest."""

    sent: Counter[str] = field(default_factory=Counter)
    answers: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    slowest: float = 0.0
    scripts: int = 0
    scripts_out: int = 0


def run_odd_input(place: Installation, seconds: float, seed: int) -> OddInput:
    """Send odd input of all kinds in turn for some seconds; scripts go into a graph that odd edits do not change."""
    rng, found, client = random.Random(seed), OddInput(), place.client
    project = client.post("/api/projects", {"title": "Odd"})["id"]
    graph = client.post(f"/api/projects/{project}/graphs", {"title": "Odd", "document": DOCUMENT})
    scripted = client.post(f"/api/projects/{project}/graphs", {"title": "Scripts", "document": DOCUMENT})["id"]
    known = bodies({**graph, "project_id": project})
    meshes = _meshes()
    packages = [path.read_bytes() for path in sorted((DEMO / "packages").glob("*.zip"))]
    scripts = [*REFUSED * 8, *RUNAWAY]
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        what = rng.choice([*known, "mesh", "package", "script"])
        if what == "mesh":
            name, data = rng.choice(meshes)
            status, body = _upload(place, f"/api/projects/{project}/assets", name, damaged(data, rng))
        elif what == "package":
            status, body = _upload(place, "/api/packages/reviews", "a.zip", damaged(rng.choice(packages), rng))
        elif what == "script":
            status, body = _script(place, scripted, rng.choice(scripts), found)
        else:
            route, sample = known[what]
            sent = mutated(sample, rng)
            status, body = _send(place, route(sent), json.dumps(sent).encode())
        found.sent[what] += 1
        found.answers[status] += 1
        if status not in EXPECTED:
            found.faults.append(f"{what}: {status} {body[:200]!r}")
        if what == "mesh" and status == "201":
            client_delete(place, f"/api/assets/{json.loads(body)['id']}")
        found.slowest = max(found.slowest, _last[0])
    return found


def _meshes() -> list[tuple[str, bytes]]:
    """Return a file of every format, and larger ones."""
    shape = ops.join(ops.torus(), ops.circle())
    with collecting():
        made = [(f"a.{ending}", write_bytes(shape, f"a.{ending}")) for ending in WRITTEN]
    return [*made, *((path.name, path.read_bytes()) for path in sorted(DEMO.glob("*.ply"))[:2]), ("山.obj", OBJ)]


OBJ = b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"
EXPECTED = ("200", "201", "204", "400", "404", "405", "409", "413", "415", "422", "429")
_last = [0.0]


def _send(place: Installation, path: str, body: bytes, kind: str = "application/json", method: str = "POST") -> Any:
    began = time.monotonic()
    request = urllib.request.Request(place.client.address + path, body, {"Content-Type": kind}, method=method)
    try:
        with urllib.request.urlopen(request, timeout=60) as answer:
            return str(answer.status), answer.read()
    except urllib.error.HTTPError as error:
        return str(error.code), error.read()
    except OSError as error:
        return type(error).__name__, b""
    finally:
        _last[0] = time.monotonic() - began


def client_delete(place: Installation, path: str) -> None:
    _send(place, path, b"", method="DELETE")


def _upload(place: Installation, path: str, name: str, data: bytes) -> Any:
    mark = uuid.uuid4().hex
    head = f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
    body = head.encode() + data + f"\r\n--{mark}--\r\n".encode()
    return _send(place, path, body, f"multipart/form-data; boundary={mark}")


def _script(place: Installation, graph: str, text: str, found: OddInput) -> Any:
    """Evaluate a hostile script as an unsaved draft; one that is neither refused nor ended counts as out."""
    draft = [{"op": "replace", "path": "/nodes/text/parameters/source", "value": text}]
    body = {"draft": draft, "node": "text", "wait": 30, "queries": []}
    status, answer = _send(place, f"/api/graphs/{graph}/evaluations", json.dumps(body).encode())
    found.scripts += 1
    if status == "200":
        told = json.loads(answer)
        ended = told["state"] in ("failed", "stopped") or (told["nodes"] or {}).get("text", {}).get("state") == "failed"
        found.scripts_out += not ended and text in REFUSED
    return status, answer
