"""Workers die, hang, and are of another release; what they were at is made elsewhere or said."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
from pathlib import Path
from typing import Any

import dask
import pytest
from dask.utils import parse_timedelta

from reticula.core.graph.structure.document import empty_document
from reticula.many import run_batch
from reticula.many.cluster import Cluster, ClusterError
from reticula.many.part import Part
from reticula.workers.tickets import Limits

ROUNDS = "total = 0.0\nfor k in range({rounds}):\n    total += sin(k)\nwhole.total = total"


def slow_graph(rounds: int) -> dict[str, Any]:
    """A graph whose script goes round so many times."""
    script = {"operator": "script", "inputs": {"geo": ["tile"]}, "parameters": {"each": "once"}}
    script["parameters"]["source"] = ROUNDS.format(rounds=rounds)
    return {
        **empty_document(),
        "dials": {"side": {"type": "number", "value": 1.0}},
        "nodes": {"tile": {"operator": "box", "parameters": {"size": {"formula": "vec3(side)"}}}, "slow": script},
        "result": "slow",
    }


def worker_ids(cluster: Cluster) -> list[int]:
    return list(cluster.client.run(os.getpid).values())


def test_a_worker_that_is_killed_costs_only_time(cluster: Cluster, tmp_path: Path) -> None:
    killed: list[int] = []

    def kill_one(entry: dict[str, Any], done: int, total: int) -> None:
        if done == 3:
            killed.append(int(entry["worker"].rpartition(":")[2]))
            os.kill(killed[-1], signal.SIGKILL)

    table = [{"side": 1.0 + number} for number in range(24)]
    made = run_batch(slow_graph(300), table=table, cluster=cluster, manifest=tmp_path / "list", on_entry=kill_one)
    assert len(killed) == 1
    assert not made.failed
    assert [one["row"] for one in made.entries] == list(range(1, 25)), "none is lost, none is there twice"
    lines = (tmp_path / "list.jsonl").read_text().splitlines()
    assert len(lines) == 24
    assert not set(killed) & set(worker_ids(cluster)), "others took their places"


def test_a_store_that_is_away_for_a_moment_costs_only_time(tmp_path: Path, limits: Limits) -> None:
    """A file stands where its folder was: nothing can be read or written, by workers or by who asks."""
    store, aside = tmp_path / "store", tmp_path / "aside"
    gone: list[threading.Timer] = []

    def come_back() -> None:
        store.unlink()
        aside.rename(store)

    def take_away(entry: dict[str, Any], done: int, total: int) -> None:
        if done == 3:
            store.rename(aside)
            store.touch()
            gone.append(threading.Timer(1.5, come_back))
            gone[0].start()

    table = [{"side": 1.0 + number} for number in range(16)]
    out = f"{tmp_path}/out/{{row}}.ply"
    with Cluster(workers=1, store=store.as_uri(), limits=limits) as cluster:
        made = run_batch(slow_graph(300), table=table, cluster=cluster, out=out, on_entry=take_away)
    assert gone[0].finished.is_set()
    assert not made.failed, made.failed
    assert [one["row"] for one in made.entries] == list(range(1, 17)), "none is lost, none is there twice"
    assert len(list((tmp_path / "out").glob("*.ply"))) == 16


def test_results_that_die_with_their_workers_before_they_are_fetched_are_made_again(
    cluster: Cluster, monkeypatch: pytest.MonkeyPatch
) -> None:
    fetched, killed = cluster._fetched, set(worker_ids(cluster))
    monkeypatch.setattr("reticula.many.cluster.do", done)

    def after_they_died(futures: list[Any]) -> Any:
        if killed & set(worker_ids(cluster)):
            for one in killed:
                os.kill(one, signal.SIGKILL)
            while set(cluster.client.scheduler_info()["workers"]) & addresses:
                pass  # until the scheduler knows
        return fetched(futures)

    addresses = set(cluster.client.scheduler_info()["workers"])
    monkeypatch.setattr(cluster, "_fetched", after_they_died)
    parts = [Part(graph="0" * 32, node="tile", values={"side": number}) for number in range(6)]
    found = [(part.values["side"], outcome["state"]) for part, outcome in cluster.outcomes(parts)]
    assert sorted(found) == [(number, "done") for number in range(6)]


def done(part: Part) -> dict[str, Any]:
    return {"state": "done"}


def test_a_part_that_ends_every_worker_has_failed_and_no_other_does(
    cluster: Cluster, monkeypatch: pytest.MonkeyPatch
) -> None:
    from reticula.many import cluster as module

    monkeypatch.setattr(module, "do", ended_by_odd_ones)
    parts = [Part(graph="0" * 32, node="tile", values={"side": number}) for number in range(6)]
    found = {part.values["side"]: outcome for part, outcome in cluster.outcomes(parts)}
    assert {side: outcome["state"] for side, outcome in found.items()} == {
        **dict.fromkeys((0, 1, 2, 4, 5), "done"),
        3: "failed",
    }
    assert "it ended every worker that tried it" in found[3]["error"]["message"]


def ended_by_odd_ones(part: Part) -> dict[str, Any]:
    """Stands in for a kernel that crashes."""
    if part.values["side"] == 3:
        os.kill(os.getpid(), signal.SIGKILL)
    return {"state": "done"}


def test_workers_that_all_die_and_come_back_late_are_waited_for(cluster: Cluster, tmp_path: Path) -> None:
    local = cluster.client.cluster
    killed = set(worker_ids(cluster))
    for one in killed:
        os.kill(one, signal.SIGKILL)
    made = run_batch(slow_graph(300), cluster=cluster, manifest=tmp_path / "list")
    assert not made.failed
    assert not killed & set(worker_ids(cluster))
    wait = dask.config.get("distributed.deploy.lost-worker-timeout")
    assert parse_timedelta(wait) > 3600, "a worker that starts slowly is not given up"
    assert len(local.workers) == 2


def test_what_takes_too_long_is_stopped_and_said(cluster: Cluster, tmp_path: Path) -> None:
    made = run_batch(slow_graph(10**12), cluster=cluster, manifest=tmp_path / "list")
    (entry,) = made.entries
    assert entry["state"] == "failed"
    assert "took longer than 8 s" in entry["error"]
    assert 8 <= entry["seconds"] < 18


def test_workers_of_another_release_are_refused_in_words(cluster: Cluster, monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.many.worker import Ready

    asked = Ready(cluster.store, cluster.limits)
    asked.name, asked.release = "reticula of tomorrow", "Reticula 9.0.0 on Python 3.11"
    with pytest.raises(RuntimeError, match=r"this worker has Reticula .* who asks has Reticula 9\.0"):
        cluster.client.register_plugin(asked)
    cluster.client.unregister_worker_plugin(asked.name)


def test_a_cluster_elsewhere_needs_a_store_and_an_answer(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    with pytest.raises(ClusterError, match="say where meshes travel"):
        Cluster("tcp://127.0.0.1:1")
    monkeypatch.setattr("reticula.many.cluster.PATIENCE", 0.3)
    with pytest.raises(ClusterError, match="no scheduler answers at tcp"):
        Cluster("tcp://127.0.0.1:1", store=tmp_path.as_uri())


class Elsewhere:
    """A scheduler and a worker as programs of their own."""

    def __init__(self, folder: Path, number: int) -> None:
        told = folder / f"scheduler-{number}.json"
        common = ["--scheduler-file", str(told), "--no-dashboard"]
        self.programs = [
            self._started("dask_scheduler", "--host", "127.0.0.1", "--port", "0", *common),
            self._started("dask_worker", "--nthreads", "1", "--no-nanny", "--local-directory", str(folder), *common),
        ]
        while not told.is_file() or not told.read_text().strip().endswith("}"):
            assert self.programs[0].poll() is None
        import json

        self.address = json.loads(told.read_text())["address"]

    @staticmethod
    def _started(program: str, *arguments: str) -> subprocess.Popen[bytes]:
        command = [sys.executable, "-m", f"distributed.cli.{program}", *arguments]
        return subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def kill(self) -> None:
        for program in self.programs:
            program.kill()
            program.wait()


def test_a_scheduler_that_is_killed_is_said_and_the_rest_is_made_by_another(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    table = [{"side": 1.0 + number} for number in range(40)]
    store = (tmp_path / "shared").as_uri()
    first = Elsewhere(tmp_path, 1)

    def run(address: str, on_entry: Any = None) -> Any:
        return run_batch(
            slow_graph(300), table=table, out="out/{row}.ply", cluster=address, store=store, on_entry=on_entry
        )

    with pytest.raises(ClusterError, match="the scheduler went away"):
        run(first.address, lambda entry, done, total: first.kill() if done == 6 else None)
    first.kill()
    kept = len((tmp_path / "out" / "manifest.jsonl").read_text().splitlines())
    assert 6 <= kept < 40
    second = Elsewhere(tmp_path, 2)
    try:
        made = run(second.address)
    finally:
        second.kill()
    assert (made.again, len(made.entries), len(made.failed)) == (kept, 40, 0)
    assert len((tmp_path / "out" / "manifest.jsonl").read_text().splitlines()) == 40, "nothing was made twice"
    assert len(list((tmp_path / "out").glob("*.ply"))) == 40
