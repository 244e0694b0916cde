"""Takes the pictures of the operators' examples from the running product: ``python -m tools.operator_pictures``.

``python -m tools.operator_pictures [ADDRESS [OPERATOR …]]`` takes those that are named, else those whose example
changed since its picture was taken. ``pictures.json`` notes what each picture was made from.
"""

from __future__ import annotations

import hashlib
import json
import sys
from pathlib import Path

from playwright.sync_api import Page

from reticula.core.operators import OPERATORS
from tools.pictures import QUIET, as_webp, bench_page, picture_of, show_studio

__all__ = ["PICTURES", "made_from", "outdated"]

PICTURES = Path(__file__).resolve().parents[1] / "docs" / "operators" / "pictures"
NOTED = PICTURES / "pictures.json"
SIZE = (400, 250)
LATE = {"evolve", "at_frame", "motion", "paths_over_time"}
"""Examples of what happens in time: they are seen at frame 12."""


def made_from(name: str) -> str:
    """Return a digest of what the picture of an operator is made from."""
    return hashlib.blake2b(OPERATORS[name].example.encode(), digest_size=8).hexdigest()


def noted() -> dict[str, str]:
    found: dict[str, str] = json.loads(NOTED.read_text()) if NOTED.exists() else {}
    return found


def outdated() -> list[str]:
    """Return the operators whose picture is missing or was made from another example."""
    known = noted()
    there = {path.stem for path in PICTURES.glob("*.webp")}
    return [name for name in OPERATORS if name not in there or known.get(name) != made_from(name)]


def take(page: Page, address: str, name: str) -> bytes:
    page.goto(f"{address}/?example={name}")
    page.get_by_test_id("graph").get_by_text(f"Example of {OPERATORS[name].label}").wait_for()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_selector(QUIET, timeout=120_000)
    if name in LATE:
        page.fill("[data-test=frame-field]", "12")
        page.press("[data-test=frame-field]", "Enter")
        page.wait_for_timeout(1500)
        page.wait_for_selector(QUIET, timeout=120_000)
    page.click("[data-test=frame]")
    page.wait_for_timeout(900)
    return as_webp(picture_of(page, "png"), SIZE)


def main(address: str, names: list[str]) -> None:
    """Write the pictures and what they were made from."""
    PICTURES.mkdir(exist_ok=True)
    with bench_page() as page:
        show_studio(page, address)
        for name in names or outdated():
            (PICTURES / f"{name}.webp").write_bytes(data := take(page, address, name))
            NOTED.write_text(json.dumps(dict(sorted((noted() | {name: made_from(name)}).items())), indent=1) + "\n")
            print(name, len(data), flush=True)


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765", sys.argv[2:])
