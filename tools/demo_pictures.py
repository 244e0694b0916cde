"""Takes the pictures of the gallery of demos from the running product: ``python -m tools.demo_pictures [ADDRESS]``."""

from __future__ import annotations

import json
import sys

from reticula.bundle import DEMO
from tools.choosing import choose
from tools.pictures import QUIET, bench_page, picture_of, show_studio

LATE = 0.85
"""Where in the frames of a demo that moves its picture is taken, as a share of them."""


def main(address: str) -> None:
    """Write a picture of each demo beside its graph."""
    with bench_page() as page:
        show_studio(page, address)
        for path in sorted(DEMO.glob("*.json")):
            document = json.loads(path.read_text("utf-8"))
            choose(page, "[data-test=graph]", label=document["title"])
            page.wait_for_selector(QUIET, timeout=120_000)
            page.wait_for_timeout(3500)
            if "time" in document:
                first, last = document["time"]["first"], document["time"]["last"]
                page.fill("[data-test=frame-field]", str(round(first + LATE * (last - first))))
                page.press("[data-test=frame-field]", "Enter")
                page.wait_for_timeout(3500)
            page.click("[data-test=frame]")
            page.wait_for_timeout(1500)
            data = picture_of(page, "webp")
            (DEMO / "pictures" / "graphs" / f"{path.stem}.webp").write_bytes(data)
            print(path.stem, len(data))


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765")
