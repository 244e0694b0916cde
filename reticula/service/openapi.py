"""Writes the OpenAPI document: ``python -m reticula.service.openapi FILE``."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from reticula.service.app import bare_app

__all__ = ["openapi_text"]


def openapi_text() -> str:
    """Return the OpenAPI document as JSON text."""
    return json.dumps(bare_app().api_doc, indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(openapi_text())
