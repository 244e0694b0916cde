"""What docs/openapi.json promises, held against the service by schemathesis: every operation, with data made from its
schema and with data that does not fit it.
"""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from flask.testing import FlaskClient
from hypothesis import HealthCheck, settings
from schemathesis.checks import load_all_checks, not_a_server_error
from schemathesis.specs.openapi.checks import positive_data_acceptance

from reticula.service.openapi import openapi_document

load_all_checks()
schema = schemathesis.openapi.from_dict(openapi_document())
schema.config.checks.negative_data_rejection.expected_statuses.append("413")
EXAMPLES = 25
MEANING = ("edits", "graphs", "assets", "reviews", "export", "evaluations", "looks", "checks", "texts", "rewrites",
           "frame", "channels", "followed", "films", "changes", "publications", "freezes", "differences",
           "definition", "back", "moments", "{revision}", "plans", "sheets", "extend", "file")  # fmt: skip
"""The last words of paths whose bodies may fit the schema and still mean nothing: a document without nodes, a patch to
what is not there, a formula that is misspelt, a file that is no mesh. They say so by 422.
"""


@pytest.fixture
def there(client: FlaskClient, graph: dict[str, Any]) -> dict[str, str]:
    """Return what paths may name that is there."""
    ticket = client.post(f"/api/graphs/{graph['id']}/evaluations", json={"wait": 10}).json["ticket"]
    return {"project_id": graph["project_id"], "graph_id": graph["id"], "ticket_id": ticket}


@schema.parametrize()
@settings(
    max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True, database=None
)
def test_the_service_does_what_its_description_says(case: schemathesis.Case, app: Any, there: dict[str, str]) -> None:
    case.operation.schema.app = app
    for name in set(case.path_parameters or {}) & set(there):
        case.path_parameters[name] = there[name]
    path = case.operation.path
    excluded = [positive_data_acceptance] if path.rpartition("/")[2] in MEANING else []
    if path.startswith("/api/depot/"):
        excluded.append(not_a_server_error)  # there is none in these tests, which it says by 503
    case.call_and_validate(app=app, excluded_checks=excluded)
