"""Makes the proof sheet that comes with the settlement tile: ``python -m tools.demo_sheet [ADDRESS]``."""

from __future__ import annotations

import sys
import time

from reticula.bundle import DEMO
from reticula.launch.client import Client
from reticula.launch.demo import FIRST

TITLE = "Which tile"
PLAN = {
    "vary": {
        "ridge_height": "uniform(0, 0.05)",
        "ridge_share": "uniform(0.05, 0.5)",
        "ridge_density": "uniform(4, 40)",
    },
    "count": 32,
    "numbers": {
        "sheltered": "sum([f.area for f in geo.faces if all(f.points.niches)])",
        "volume": "volume",
        "faces": "faces",
    },
    "seek": {
        "aims": [{"formula": "volume"}, {"formula": "sheltered", "goal": "largest"}],
        "conditions": ["volume < 0.003"],
    },
}
"""Little clay against much area in the niches between ridges, where larvae settle."""


def main(address: str) -> None:
    """Have the running product make the sheet, and write it beside the graphs of the demo."""
    client = Client(address)
    graphs = [
        graph["id"]
        for project in client.get("/api/projects")["projects"]
        for graph in client.get(f"/api/projects/{project['id']}/graphs")["graphs"]
        if graph["title"] == "Settlement tile"
    ]
    sheet = client.post(f"/api/graphs/{graphs[0]}/sheets", {"title": TITLE, "plan": PLAN})
    while sheet["state"] == "running":
        time.sleep(1)
        sheet = client.get(f"/api/sheets/{sheet['id']}")
        print(f"{sheet['done']} of {PLAN['count']}", end="\r", flush=True)
    if sheet["state"] != "done" or sheet["failed"]:
        raise SystemExit(f"it did not come out: {sheet['trouble'] or 'some tries failed'}")
    folder = DEMO / "sheets"
    folder.mkdir(exist_ok=True)
    (folder / f"{FIRST}.zip").write_bytes(client.fetch(f"/api/sheets/{sheet['id']}/file"))


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765")
