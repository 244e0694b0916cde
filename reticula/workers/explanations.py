"""Questions about how a result came about: the way of an element, what texts give for it, why it has a value."""

from __future__ import annotations

from typing import assert_never, cast

from reticula.contract.answers import LookAnswer, Step
from reticula.contract.explanations import LiveLook, WhyLook
from reticula.contract.queries import LiveQuery, TraceQuery, WhyQuery, WiresQuery
from reticula.core.graph import Evaluation
from reticula.core.graph.inspection.live_values import live_text, live_wires
from reticula.core.graph.inspection.picked_element import Picked
from reticula.core.graph.inspection.provenance import trace
from reticula.core.graph.inspection.text_place import FrameBefore, nothing_before
from reticula.core.graph.inspection.why import why

__all__ = ["explain"]


def explain(
    done: Evaluation,
    feed: str,
    query: TraceQuery | LiveQuery | WiresQuery | WhyQuery,
    frame_before: FrameBefore = nothing_before,
) -> LookAnswer:
    """Answer a question about an element of the result ``feed``; ``frame_before`` gives feeds as they were a frame
    ago.
    """
    match query:
        case TraceQuery():
            steps = [step.describe() for step in trace(done, feed, query.kind, query.element)]
            return {"what": "trace", "steps": cast(list[Step], steps)}
        case LiveQuery():
            found = live_text(done, query.node, query.parameter, query.source, _picked(done, feed, query), frame_before)
            return cast(LiveLook, {"what": "live", **found})
        case WiresQuery():
            return {"what": "wires", "values": live_wires(done, _picked(done, feed, query))}
        case WhyQuery():
            return cast(
                WhyLook, {"what": "why", **why(done, feed, query.kind, query.element, query.name, frame_before)}
            )
        case _:
            assert_never(query)


def _picked(done: Evaluation, feed: str, query: LiveQuery | WiresQuery) -> Picked | None:
    if query.kind is None or query.element is None or not done.has(feed):
        return None
    return Picked(feed, query.kind, query.element)
