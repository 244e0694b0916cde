"""JSON Patches (RFC 6902) applied to documents, within limits that are looked at first."""

from __future__ import annotations

from typing import Any

import jsonpatch
from jsonpointer import JsonPointerException, resolve_pointer

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure
from reticula.core.graph.structure.extent import MOST_BYTES, check_depth, rough_size

__all__ = ["Patch", "apply_patch", "check_form"]

Patch = list[dict[str, Any]]
MOST_OPERATIONS = 10_000
MOST_COPIES = 200


def apply_patch(document: dict[str, Any], patch: Patch) -> dict[str, Any]:
    """Return the patched document; raise GraphError if the patch is too large, does not fit, or the result is not
    valid.
    """
    check_depth(patch, "the edit")
    if len(patch) > MOST_OPERATIONS:
        raise GraphError(f"an edit has at most {MOST_OPERATIONS:,} operations, not {len(patch):,}; send it in parts")
    copies = [one for one in patch if one.get("op") == "copy"]
    if len(copies) > MOST_COPIES:
        raise GraphError(f"an edit has at most {MOST_COPIES} copy operations, not {len(copies):,}; send it in parts")
    try:
        patched: dict[str, Any] = (_with_copies if copies else jsonpatch.apply_patch)(document, patch)
    except (
        jsonpatch.JsonPatchException,
        JsonPointerException,
        TypeError,
        KeyError,
        ValueError,
        AttributeError,
        IndexError,
    ) as error:
        raise GraphError(f"the edit does not fit the graph: {str(error)[:300]}") from None
    check_structure(patched)
    return patched


def check_form(patch: Patch) -> None:
    """Raise GraphError if an operation does not say where it is to be done."""
    for number, one in enumerate(patch):
        wanted = ("path", "from") if one.get("op") in ("move", "copy") else ("path",)
        for word in wanted:
            if not isinstance(one.get(word), str):
                raise GraphError(f"the edit does not fit the graph: operation {number} has no '{word}'")


def _with_copies(document: dict[str, Any], patch: Patch) -> dict[str, Any]:
    """Apply a patch step by step, and stop before copies make the document too large."""
    made, size = document, rough_size(document)
    for step in patch:
        if step.get("op") == "copy":
            size += rough_size(resolve_pointer(made, step["from"]))
            if size > MOST_BYTES:
                raise GraphError(f"the copies in this edit make the graph larger than {MOST_BYTES // 1024**2} MB")
        made = jsonpatch.JsonPatch([step]).apply(made)
    return made
