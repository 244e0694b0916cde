"""Thousands of requests that somebody got wrong: every answer says what is wrong, none is a fault of the service."""

from __future__ import annotations

import json
import random
from collections import Counter
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.helpers import examples
from tests.mutating import DOCUMENT, bodies, mutated


@pytest.mark.parametrize("what", ["document", "edit", "change", "rename", "rewrite", "settings"])
def test_mutated_requests_are_answered(client: FlaskClient, graph: dict[str, Any], what: str) -> None:
    url, body = bodies(graph)[what]
    rng = random.Random(what)
    for number in range(examples(700)):
        wrong = mutated(body, rng)
        method = "PUT" if what == "settings" else "POST"
        made = client.open(url(wrong), method=method, data=json.dumps(wrong), content_type="application/json")
        assert made.status_code < 500, (number, made.json, json.dumps(wrong)[:600])
        assert made.status_code < 400 or made.json["message"], (number, wrong)


def test_mutated_documents_are_evaluated_or_refused(client: FlaskClient, graph: dict[str, Any]) -> None:
    rng, done, said = random.Random(7), 0, Counter()
    for number in range(examples(250)):
        wrong = mutated({key: DOCUMENT[key] for key in ("nodes", "dials")}, rng)
        draft = [{"op": "add", "path": f"/{key}", "value": wrong[key]} for key in wrong]
        query = {"what": "rows", "kind": "face", "where": "area > 0", "limit": 3}
        query = mutated(query, rng) if number % 4 == 0 else query
        body = {"wait": 20, "draft": draft, "node": "tall", "queries": [query]}
        made = client.post(f"/api/graphs/{graph['id']}/evaluations", json=body)
        said[str(made.json.get("message") or made.json.get("error"))[:150]] += 1
        assert made.status_code < 500, (number, made.json, json.dumps(body)[:900])
        if made.status_code == 200:
            assert made.json["state"] in ("done", "failed"), (number, made.json)
            done += made.json["state"] == "done"
            assert (made.json["error"] or {}).get("code") not in ("internal", "crashed"), (
                number,
                made.json["error"],
                body,
            )
            for entry in (made.json["nodes"] or {}).values():
                assert (entry["error"] or {}).get("code") != "internal", (number, entry["error"], body)
    assert done > 10, said
