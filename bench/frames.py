"""Frames: what keys and moments cost beside a plain loop that sets values by hand, and looking back."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from typing import Any

from bench.measure import Row, compare
from demo.passing_shoal import passing_shoal
from reticula.core.graph import Evaluator, frames_of
from reticula.core.graph.time.keys import keys_of
from reticula.core.graph.time.timeline import timeline_of

__all__ = ["rows"]

COUNT = 240


def by_hand(document: dict[str, Any], frame: float) -> dict[str, Any]:
    """The same graph without keys and without time: values of this frame, and time as a dial."""
    made = copy.copy(document)
    timeline = timeline_of(document)
    reach = keys_of("reach", document["dials"]["reach"]["value"]).at(frame, "real")
    move = keys_of("move", document["nodes"]["path"]["parameters"]["move"]).at(frame, "real")
    made.pop("time")
    made["dials"] = {
        **document["dials"],
        "reach": {**document["dials"]["reach"], "value": reach},
        "time": {"type": "number", "value": timeline.names(frame)["time"]},
    }
    made["nodes"] = {**document["nodes"], "path": {**document["nodes"]["path"], "parameters": {"move": move}}}
    return made


def all_frames() -> Row:
    """Every frame of a demo; the peer evaluates the same graph with the values set by hand."""
    document = passing_shoal()
    frames = [float(frame) for frame in range(1, COUNT + 1)]

    def ours() -> None:
        for _ in frames_of(document, frames):
            pass

    def plain() -> None:
        evaluator = Evaluator()
        for frame in frames:
            evaluator.evaluate(by_hand(document, frame), targets=[document["result"]])

    return compare(f"{COUNT} frames of Passing shoal", "6,400 scales, 60 fish", ours, "values set by hand", plain, 3)


def looking_back() -> Row:
    """Frames that were evaluated; the peer evaluates them anew."""
    document, warm = passing_shoal(), Evaluator()
    frames = [float(frame) for frame in range(1, 41)]

    def again(evaluator: Evaluator) -> None:
        for frame in reversed(frames):
            evaluator.evaluate(document, frame=frame, targets=[document["result"]])

    again(warm)
    return compare("looking back over 40 frames", "kept", lambda: again(warm), "anew", lambda: again(Evaluator()), 3)


def rows() -> Iterator[Row]:
    yield all_frames()
    yield looking_back()
