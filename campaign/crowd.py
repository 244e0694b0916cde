"""Many people at once, each with an open page (its line) and a graph of their own: how long edits and results take."""

from __future__ import annotations

import asyncio
import json
import random
import time
import uuid
from dataclasses import dataclass, field
from typing import Any

from websockets.asyncio.client import ClientConnection, connect

from campaign.installation import Installation

__all__ = ["Crowd", "run_crowd"]

THINK = (6.0, 14.0)
"""Seconds between two edits of one person in a crowd of 50; in a larger one as many times longer."""
BASE = 50
HEALTH_EVERY = 0.5


@dataclass
class Crowd:
    """Seconds that edits, results and health took, and what went wrong."""

    people: int
    edits: list[float] = field(default_factory=list)
    results: list[float] = field(default_factory=list)
    health: list[float] = field(default_factory=list)
    refused: int = 0
    troubles: list[str] = field(default_factory=list)


async def _graphs(place: Installation, people: int) -> list[dict[str, Any]]:
    """Make a copy of the demo's first graph for each person, in a project of its own with the demo's shapes."""
    client = place.client
    demo = client.get("/api/projects")["projects"][0]["id"]
    shapes = client.get(f"/api/projects/{demo}/assets")["assets"]
    first = client.get(f"/api/graphs/{client.get(f'/api/projects/{demo}/graphs')['graphs'][0]['id']}")
    files = [(shape["file_name"], client.fetch(f"/api/assets/{shape['id']}/content")) for shape in shapes]
    made = []
    for number in range(people):
        project = (await asyncio.to_thread(client.post, "/api/projects", {"title": f"Person {number}"}))["id"]
        for name, data in files:
            await asyncio.to_thread(client.upload, f"/api/projects/{project}/assets", name, data)
        body = {"title": "Tile", "document": first["document"]}
        made.append(await asyncio.to_thread(client.post, f"/api/projects/{project}/graphs", body))
    return made


async def _ask(
    line: ClientConnection, number: int, path: str, body: dict[str, Any] | None, method: str = "POST"
) -> tuple[int, dict[str, Any]]:
    head = json.dumps({"id": number, "method": method, "path": path})
    await line.send(f"{head}\n{json.dumps(body) if body else ''}")
    while True:
        message = await line.recv()
        if isinstance(message, bytes):
            continue
        head, _, rest = message.partition("\n")
        told = json.loads(head)
        if told.get("id") == number and "status" in told:
            return told["status"], json.loads(rest or "{}")


async def _person(place: Installation, graph: dict[str, Any], until: float, found: Crowd) -> None:
    rng = random.Random(graph["id"])
    low, high = (bound * max(found.people / BASE, 1.0) for bound in THINK)
    dial = next(iter(graph["document"]["dials"]))
    revision, number, channel = graph["revision"], 0, uuid.uuid4().hex
    base = f"127.0.0.1:{place.port}"
    async with connect(f"ws://{base}/api/live", origin=f"http://{base}", max_size=None) as line:  # type: ignore[arg-type]
        await asyncio.sleep(rng.uniform(0, high))
        while time.monotonic() < until:
            value = graph["document"]["dials"][dial]["value"] * rng.uniform(0.8, 1.2)
            patch = [{"op": "replace", "path": f"/dials/{dial}/value", "value": value}]
            edit = {"revision": revision, "patch": patch, "label": "turn", "key": uuid.uuid4().hex}
            began = time.monotonic()
            made = await asyncio.to_thread(place.client.post, f"/api/graphs/{graph['id']}/edits", edit)
            revision = made["revision"]
            found.edits.append(time.monotonic() - began)
            number += 1
            query = {"wait": 30, "queries": [{"what": "mesh"}], "channel": channel}
            began = time.monotonic()
            status, answer = await _ask(line, number, f"/api/graphs/{graph['id']}/evaluations", query)
            while status == 200 and answer["state"] in ("waiting", "running"):
                number += 1
                path = f"/api/evaluations/{answer['ticket']}?wait=30"
                status, answer = await _ask(line, number, path, None, "GET")
            if status == 429:
                found.refused += 1
            elif status == 200 and answer["state"] == "done":
                found.results.append(time.monotonic() - began)
            else:
                found.troubles.append(f"{status} {answer.get('state')} {answer.get('message', '')}"[:200])
            await asyncio.sleep(rng.uniform(low, high))


async def _look_after(place: Installation, found: Crowd, until: float) -> None:
    while time.monotonic() < until:
        began = time.monotonic()
        await asyncio.to_thread(place.client.get, "/api/health")
        found.health.append(time.monotonic() - began)
        await asyncio.sleep(HEALTH_EVERY)


async def _run(place: Installation, people: int, seconds: float) -> Crowd:
    graphs = await _graphs(place, people)
    found = Crowd(people)
    until = time.monotonic() + seconds
    work = [_person(place, graph, until, found) for graph in graphs]
    told = await asyncio.gather(_look_after(place, found, until), *work, return_exceptions=True)
    found.troubles += [f"{type(one).__name__}: {one}"[:200] for one in told if isinstance(one, BaseException)]
    return found


def run_crowd(place: Installation, people: int, seconds: float) -> Crowd:
    """Let people work for some seconds, each on a graph of their own."""
    return asyncio.run(_run(place, people, seconds))
