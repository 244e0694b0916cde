"""An evaluator asks over its pipe for parts to be run: what comes back, who ends it, and whose time it takes."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator, Mapping, Sequence
from multiprocessing import Pipe
from pathlib import Path
from typing import Any

import pytest

from reticula.core import ops
from reticula.core.context import KeyedGeo
from reticula.core.errors import Stopped, Unreachable
from reticula.core.graph.evaluation.array_files import ArrayFile, read_arrays
from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared
from reticula.workers.spreading import Away, SpreadOverLink
from reticula.workers.tasks import Job
from reticula.workers.tickets import Ticket

SHARED = Shared({"nodes": {"a": {"parameters": {"shape": "reef.ply"}}}}, {}, {}, {}, {}, "geo", "each", ())
SHAPES = {"reef.ply": ("/reef", "abc"), "other.ply": ("/other", "def")}
BUNDLES = [Bundle([(KeyedGeo(ops.grid(cells=(number, 1)), str(number)), {"part": number})]) for number in (1, 2, 3)]


class Errand:
    """Gives each part back as it is, the last one first; ``until`` so many came."""

    begun: list[Errand] = []

    def __init__(self, shared: Path, bundles: Sequence[Path], shapes: Mapping[str, tuple[str, str]]) -> None:
        self.bundles, self.shapes = dict(enumerate(bundles)), shapes
        self.shared = read_arrays(shared)
        self.stopped = False
        self.told: list[tuple[int, dict[str, Any]]] = []
        self.begun.append(self)

    def answers(self) -> list[tuple[int, dict[str, Any]]]:
        if self.told:
            return [self.told.pop(0)]
        if not self.bundles or self.stopped:
            return []
        number, path = self.bundles.popitem()
        made = path.with_suffix(".made")
        ArrayFile.of(Made([{"geo": read_arrays(path).parts[0][0].geo}])).write(made)
        return [(number, {"path": str(made)})]

    def stop(self) -> None:
        self.stopped = True


class Watch:
    """Passes on what an evaluator asks for, as its watch does."""

    def __init__(self, spreader: Any) -> None:
        self.theirs, self.ours = Pipe()
        self.ticket = Ticket(Job("evaluate"), began=time.monotonic())
        self.away = Away(self.ticket, self.ours, spreader)
        self.closed = False
        self.thread = threading.Thread(target=self._watch, daemon=True)
        self.thread.start()

    def _watch(self) -> None:
        while not self.closed:
            self.away.pass_on()
            if self.ours.poll(0.01):
                kind, content = self.ours.recv()
                assert kind == "spread"
                self.away.asked(content)


@pytest.fixture
def watch() -> Iterator[Watch]:
    Errand.begun.clear()
    made = Watch(Errand)
    yield made
    made.closed = True
    made.thread.join()


def test_what_is_made_comes_back_as_it_ends(watch: Watch, tmp_path: Path) -> None:
    found = list(SpreadOverLink(watch.theirs, tmp_path, lambda: False, SHAPES).run(SHARED, BUNDLES))
    assert [number for number, _ in found] == [2, 1, 0]
    assert [made.outputs[0]["geo"].counts["faces"] for _, made in found] == [3, 2, 1]
    (errand,) = Errand.begun
    assert errand.shared == SHARED
    assert errand.shapes == {"reef.ply": ("/reef", "abc")}, "what is not named stays"
    assert errand.stopped
    assert not list(tmp_path.iterdir()), "no file is left"
    assert not watch.theirs.poll(0.05), "nothing is left in the pipe that a job would be taken for"


def test_one_who_has_enough_gets_nothing_more(watch: Watch, tmp_path: Path) -> None:
    coming = SpreadOverLink(watch.theirs, tmp_path, lambda: False).run(SHARED, BUNDLES)
    next(coming)
    coming.close()
    assert Errand.begun[0].stopped
    assert not watch.theirs.poll(0.05)
    assert not list(tmp_path.iterdir())


def test_one_who_is_stopped_ends_it(watch: Watch, tmp_path: Path) -> None:
    with pytest.raises(Stopped):
        list(SpreadOverLink(watch.theirs, tmp_path, lambda: True).run(SHARED, BUNDLES))
    assert not watch.theirs.poll(0.05)


class Telling(Errand):
    """Makes nothing and tells one thing."""

    tells: tuple[int, dict[str, Any]] = (0, {})

    def __init__(self, *given: Any) -> None:
        super().__init__(*given)
        self.bundles, self.told = {}, [self.tells]


def test_a_part_that_could_not_be_made_is_told(watch: Watch, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(Telling, "tells", (0, {"error": {"code": "crashed", "message": "it ended"}}))
    watch.away.spreader = Telling
    ((number, made),) = SpreadOverLink(watch.theirs, tmp_path, lambda: False).run(SHARED, BUNDLES[:1])
    assert number == 0
    assert made.error == {"code": "limit", "message": "a part could not be made: it ended"}


def test_a_cluster_that_is_gone_is_told(watch: Watch, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(Telling, "tells", (-1, {"gone": "away"}))
    watch.away.spreader = Telling
    with pytest.raises(Unreachable, match="away"):
        list(SpreadOverLink(watch.theirs, tmp_path, lambda: False).run(SHARED, BUNDLES))


def test_time_stands_still_for_a_job_whose_parts_others_run(watch: Watch, tmp_path: Path) -> None:
    began = watch.ticket.began
    list(SpreadOverLink(watch.theirs, tmp_path, lambda: False).run(SHARED, BUNDLES))
    assert began < watch.ticket.began <= time.monotonic()


def test_without_anybody_it_is_said(tmp_path: Path) -> None:
    watch = Watch(None)
    with pytest.raises(Unreachable, match="there is none here"):
        list(SpreadOverLink(watch.theirs, tmp_path, lambda: False).run(SHARED, BUNDLES))
    watch.closed = True
    watch.thread.join()
