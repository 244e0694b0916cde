"""What the pool counts: jobs by how they ended, how long they waited and took, and what came from caches."""

from __future__ import annotations

from prometheus_client import CollectorRegistry, Counter, Histogram

__all__ = ["FIGURES", "JOBS", "NODES", "OVERFLOWED", "REPLACED", "TOOK", "WAITED"]

FIGURES = CollectorRegistry()
STEPS = (0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0, 30.0, 100.0)


def _counter(name: str, about: str, *labels: str) -> Counter:
    return Counter(f"reticula_{name}", about, labels, registry=FIGURES)


def _seconds(name: str, about: str, *labels: str) -> Histogram:
    return Histogram(f"reticula_{name}", about, labels, buckets=STEPS, registry=FIGURES)


JOBS = _counter("jobs", "Jobs that ended.", "what", "state")
WAITED = _seconds("job_waited_seconds", "Time until an evaluator took a job.", "priority")
TOOK = _seconds("job_seconds", "Time that an evaluator took for a job.", "what")
NODES = _counter("nodes", "Results of nodes, from an evaluator's cache or computed.", "source")
REPLACED = _counter("evaluators_replaced", "Evaluators that were ended and started again.")
OVERFLOWED = _counter("jobs_overflowed", "Jobs of the page that the cluster took while all evaluators were at work.")
