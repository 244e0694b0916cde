"""What is told of proof sheets and of their variants, and what is read of plans."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from typing import Any

from reticula.many.aims import Seek
from reticula.many.sheet import Plan
from reticula.service.schemas.sheets import PlanBody
from reticula.store.sheet_models import SheetRow, VariantRow

__all__ = ["planned", "sheet_state", "variants_told"]


def sheet_state(sheet: SheetRow, count: dict[str, int]) -> dict[str, Any]:
    """Return what is told of a sheet with so many variants of each state."""
    plan = json.loads(sheet.plan)
    return {
        "id": sheet.id,
        "project_id": sheet.project_id,
        "graph_id": sheet.graph_id,
        "title": sheet.title,
        "plan": plan,
        "noted": Plan.of(plan).noted,
        "state": sheet.state,
        "trouble": sheet.trouble,
        "ended": sheet.ended,
        "best": json.loads(sheet.best),
        "made": sheet.created_at.isoformat(),
        **count,
    }


def variants_told(sheet: SheetRow, found: Sequence[VariantRow]) -> list[dict[str, Any]]:
    """Return what is told of variants of a sheet."""
    told = [_variant(one) for one in found]
    plan = Plan.of(json.loads(sheet.plan))
    seek = plan.seek
    if seek is None or not told:
        return told
    rows = [{**dict.fromkeys(plan.read), **one["values"], **one["numbers"]} for one in told]
    values, excess = seek.values(rows), seek.excess(rows, [one["warnings"] for one in told])
    for at, one in enumerate(told):
        said = [None if math.isnan(value) else value for value in values[at].tolist()]
        one["aims"] = dict(zip((aim.formula for aim in seek.aims), said, strict=True))
        one["meets"] = one["state"] == "done" and bool(excess[at] <= 0)
    return told


def _variant(one: VariantRow) -> dict[str, Any]:
    outcome = json.loads(one.outcome)
    return {
        "number": one.number,
        "state": one.state,
        "ended": one.ended,
        "values": json.loads(one.given),
        "numbers": outcome.get("numbers", {}),
        "aims": {},
        "meets": one.state == "done",
        "counts": outcome.get("counts", {}),
        "error": (outcome.get("error") or {}).get("message", ""),
        "warnings": outcome.get("warnings", []),
        "notes": outcome.get("notes", []),
        "seconds": outcome.get("took", 0.0),
        "memory": outcome.get("memory", 0),
        "picture": one.content,
        "file": one.file,
    }


def planned(body: PlanBody, node: str | None, frame: float | None, columns: Sequence[str] = ()) -> Plan:
    """Return the plan that is asked for; ``columns`` are those of its table."""
    given = body.model_dump(include={"vary", "count", "spread", "seed", "numbers", "table", "ending"})
    seek = Seek.of(body.seek.model_dump()) if body.seek else None
    return Plan(**given, node=node, frame=frame, seek=seek, columns=columns)
