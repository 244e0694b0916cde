"""Figures for Prometheus (its text format 0.0.4) at ``/metrics``: on this machine, or with a token."""

from __future__ import annotations

import hmac
import ipaddress
import time
from collections.abc import Iterator

from flask import Flask, Response, g, request
from flask_openapi3 import APIBlueprint, Tag
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Counter, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.metrics_core import Metric

from reticula.service.answers import Answer
from reticula.service.context import Context, context
from reticula.service.errors import refuse
from reticula.service.people.principal import recognise
from reticula.service.schemas import ErrorState
from reticula.workers.figures import FIGURES

__all__ = ["blueprint", "install_metrics"]

blueprint = APIBlueprint("monitoring", __name__, abp_tags=[Tag(name="monitoring")])
REQUESTS = CollectorRegistry()
COUNT = Counter("reticula_requests", "Requests that were answered.", ["route", "method", "status"], registry=REQUESTS)
SECONDS = Histogram(
    "reticula_request_seconds",
    "Time that a thread took for a request; waiting for an evaluator is not part of it.",
    ["route"],
    buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0),
    registry=REQUESTS,
)


def install_metrics(app: Flask) -> None:
    """Count requests and their time."""

    @app.before_request
    def begin() -> None:
        g.counted_from = time.perf_counter()

    @app.after_request
    def end(response: Response) -> Response:
        route = str(request.url_rule or "-")
        COUNT.labels(route, request.method, str(response.status_code)).inc()
        SECONDS.labels(route).observe(time.perf_counter() - g.get("counted_from", time.perf_counter()))
        return response


@blueprint.get("/metrics", responses={403: ErrorState})
def metrics() -> Answer:
    """Read the figures in the text format of Prometheus."""
    here = context()
    if not _may_read(here):
        return refuse(403, "metrics", "Figures are told on this machine, or with a token: Authorization: Bearer …")
    now = CollectorRegistry()
    now.register(_Now(here))
    text = b"".join(generate_latest(one) for one in (REQUESTS, FIGURES, now))
    return Response(text, content_type=CONTENT_TYPE_LATEST)


def _may_read(here: Context) -> bool:
    secret = request.headers.get("Authorization", "").partition(" ")[2]
    wanted = here.config.metrics_token
    if wanted and hmac.compare_digest(secret.encode(), wanted.encode()):
        return True
    if secret and here.config.sign_in:
        with here.database.session() as session:
            return recognise(session).everything
    address = ipaddress.ip_address(request.remote_addr or "0.0.0.0")
    return address.is_loopback and not request.headers.get("X-Forwarded-For")


class _Now:
    """What is so at the moment of asking: evaluators, queue, memory, database, arrays on their way."""

    def __init__(self, here: Context) -> None:
        self._here = here

    def collect(self) -> Iterator[Metric]:
        pool = self._here.pool.health()
        seats = pool["evaluators"]
        yield _gauge("waiting_jobs", "Jobs that wait for an evaluator.", pool["waiting"])
        yield _gauge("evaluators", "Evaluators that answer in time.", sum(seat["answers"] for seat in seats))
        yield _gauge(
            "evaluators_busy", "Evaluators that are at a job.", sum(seat["busy_seconds"] > 0 for seat in seats)
        )
        memory = GaugeMetricFamily("reticula_evaluator_bytes", "Memory of an evaluator.", labels=["evaluator"])
        for number, seat in enumerate(seats):
            memory.add_metric([str(number)], seat["bytes"])
        yield memory
        yield _gauge("array_bytes", "Arrays that are kept for pages, on disk.", self._here.pool.buffers.size())
        yield _gauge("database_up", "Whether the database answers.", float(self._here.pulse.seen().database))
        connections = self._here.database.engine.pool.checkedout()  # type: ignore[attr-defined]  # a queue pool has it
        yield _gauge("database_connections", "Connections to the database that are in use.", connections)


def _gauge(name: str, about: str, value: float) -> GaugeMetricFamily:
    return GaugeMetricFamily(f"reticula_{name}", about, value=value)
