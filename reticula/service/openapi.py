"""Writes the OpenAPI document: ``python -m reticula.service.openapi FILE``."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from reticula.service.app import bare_app

UPLOADS = ("/api/projects/{project_id}/assets", "/api/packages/reviews")
FORM: dict[str, Any] = {
    "required": True,
    "content": {
        "multipart/form-data": {
            "schema": {
                "type": "object",
                "required": ["file"],
                "properties": {"file": {"type": "string", "format": "binary"}},
            }
        }
    },
}

__all__ = ["openapi_document", "openapi_text"]

ERROR: dict[str, Any] = {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorState"}}}


def openapi_document() -> dict[str, Any]:
    """Return the OpenAPI document. Every operation may answer with an error, always of one form."""
    document: dict[str, Any] = bare_app().api_doc
    parts = document["components"]
    for name in [name for name, part in parts.items() if part is None]:
        del parts[name]
    parts["schemas"].pop("ValidationErrorModel", None)
    for path in UPLOADS:
        document["paths"][path]["post"]["requestBody"] = FORM
    for operations in document["paths"].values():
        for operation in operations.values():
            answers = operation["responses"]
            answers["422"] = {"description": "The request or what it asks for is wrong; it says how", "content": ERROR}
            answers["default"] = {
                "description": "Refused (403, 404, 409, 413), too much at once (429), or not possible now (5xx)",
                "content": ERROR,
            }
    return document


def openapi_text() -> str:
    """Return the OpenAPI document as JSON text."""
    return json.dumps(openapi_document(), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(openapi_text())
