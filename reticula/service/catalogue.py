"""The catalogue, settings and health."""

from __future__ import annotations

import json
import shutil
from functools import cache

from flask_openapi3 import APIBlueprint, Tag
from werkzeug.wrappers import Response

from reticula import __version__
from reticula.core.formats import FORMATS
from reticula.core.geometry import TYPES
from reticula.core.graph.nesting.dial_types import DIAL_TYPES
from reticula.core.graph.time.tables import OUTSIDE, TAKEN, TIME_UNITS
from reticula.core.language.completions import describe_functions
from reticula.core.language.questions import QUESTIONS
from reticula.core.operators import OPERATORS
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.operator_schemas import OperatorList
from reticula.service.room import LEAST_FREE
from reticula.service.schemas import Health, Settings
from reticula.service.sharing.library import published_states
from reticula.store import settings

__all__ = ["blueprint"]

blueprint = APIBlueprint("catalogue", __name__, url_prefix="/api", abp_tags=[Tag(name="catalogue")])


@blueprint.get("/operators", responses={200: OperatorList})
def list_operators() -> Answer:
    """List all operators, published ones with every release, the functions of the language, and the file formats."""
    with context().database.session() as session:
        published = published_states(session)
    ours, rest = _built_in()
    operators = ",".join([ours, *(json.dumps(state) for state in published)])
    return Response(f'{{"operators":[{operators}],{rest}', mimetype="application/json")


@cache
def _built_in() -> tuple[str, str]:
    """Return what never changes, as JSON: the operators that ship with us, and all that stands behind the operators."""
    ours = ",".join(json.dumps(entry.describe()) for entry in OPERATORS.values())
    rest = {
        "functions": describe_functions()
        + [{"name": n, "usage": f"source.{m.usage}", "summary": m.summary} for n, m in QUESTIONS.items()],
        "formats": {
            ending: {
                "name": chosen.name,
                "keeps": chosen.keeps,
                "options": chosen.options,
                "about": chosen.about,
                "written": chosen.writes,
                "parts": chosen.parts,
                "tolerance": chosen.tolerance,
            }
            for ending, chosen in FORMATS.items()
        },
        "attribute_types": {
            name: {
                "about": info.about,
                "shown": info.shown,
                "parts": info.parts,
                "measured": info.is_numeric,
                "converts": info.cast is not None,
            }
            for name, info in TYPES.items()
        },
        "dial_types": {
            name: {"fresh": kind.fresh, "ranged": kind.ranged, "follows": kind.follows}
            for name, kind in DIAL_TYPES.items()
        },
        "table_words": {"units": TIME_UNITS, "taken": TAKEN, "outside": OUTSIDE},
    }
    return ours, json.dumps(rest)[1:]


@blueprint.get("/settings", responses={200: Settings})
def read_settings() -> Answer:
    """Read the settings."""
    with context().database.session() as session:
        return settings.read(session)


@blueprint.put("/settings", responses={200: Settings})
def write_settings(body: Settings) -> Answer:
    """Change some settings and return all."""
    with context().database.session() as session:
        return settings.write(session, body.model_dump(exclude_none=True))


@blueprint.get("/health", responses={200: Health})
def health() -> Answer:
    """Tell whether all parts answer."""
    here = context()
    pool = here.pool.health()
    evaluators = sum(seat["answers"] for seat in pool["evaluators"])
    free = shutil.disk_usage(here.config.var).free
    seen = here.pulse.seen()
    fine = seen.database and evaluators == here.config.workers and free > LEAST_FREE and seen.depot is not False
    return {
        "status": "ok" if fine else "degraded",
        "database": seen.database,
        "evaluators": evaluators,
        "waiting": pool["waiting"],
        "disk_free": free,
        "depot": seen.depot,
        "version": __version__,
    }
