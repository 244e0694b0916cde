"""Figures: in the text format of Prometheus, read back by its own parser."""

from __future__ import annotations

from typing import Any

from flask.testing import FlaskClient
from prometheus_client.parser import text_string_to_metric_families

from tests.service.conftest import LAUNCH
from tests.service.people.conftest import SECURE
from tests.service.test_evaluations import evaluate


def figures(client: FlaskClient) -> dict[tuple[str, str], float]:
    text = client.get("/metrics").get_data(as_text=True)
    return {
        (sample.name, "/".join(value for _, value in sorted(sample.labels.items()))): sample.value
        for family in text_string_to_metric_families(text)
        for sample in family.samples
    }


def test_requests_jobs_and_evaluators_are_counted(client: FlaskClient, graph: dict[str, Any]) -> None:
    before = figures(client)
    for _ in range(2):
        assert evaluate(client, graph)["state"] == "done"
    after = figures(client)

    def grown(name: str, labels: str = "") -> float:
        return after.get((name, labels), 0.0) - before.get((name, labels), 0.0)

    assert grown("reticula_requests_total", "POST//api/graphs/<graph_id>/evaluations/200") == 2
    assert grown("reticula_jobs_total", "done/evaluate") == 2
    assert grown("reticula_nodes_total", "cache") >= 2
    assert grown("reticula_job_seconds_count", "evaluate") == 2
    assert after["reticula_evaluators", ""] == 1
    assert after["reticula_database_up", ""] == 1
    assert after["reticula_evaluator_bytes", "0"] > 50e6


def test_elsewhere_figures_need_a_token(guarded: Any, client: FlaskClient) -> None:
    other = guarded.test_client()
    away: dict[str, Any] = {"environ_base": {"REMOTE_ADDR": "203.0.113.9"}, **SECURE}
    assert other.get("/metrics", **away).status_code == 403
    assert other.get("/metrics", headers={"Authorization": "Bearer x"}, **away).status_code == 403
    assert other.get("/metrics", headers={"Authorization": f"Bearer {LAUNCH}"}, **away).status_code == 200
    assert other.get("/metrics", headers={"X-Forwarded-For": "203.0.113.9"}, **SECURE).status_code == 403
    assert other.get("/metrics", **SECURE).status_code == 200
