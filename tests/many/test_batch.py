"""A batch makes every row once, whatever happens to its workers, and goes on where it stopped."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import Any

import pytest
from pyarrow import parquet

from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.graph import run_graph
from reticula.core.packages import write_package
from reticula.many import run_batch
from reticula.many.choices import Uniform
from reticula.many.cluster import Cluster
from tests.core.packages.studio import published

OUT = "out/{scan}-{lift}.ply"
TABLE = [{"lift": 0.1}, {"lift": 0.2, "site": "north"}]


def bytes_in(folder: Path) -> dict[str, str]:
    return {path.name: hashlib.sha256(path.read_bytes()).hexdigest() for path in folder.glob("*.ply")}


def test_every_scan_is_made_with_every_row_as_the_graph_makes_it(
    cluster: Cluster, graph: dict[str, Any], scans: Path
) -> None:
    told: list[tuple[int, int]] = []
    made = run_batch(
        graph,
        inputs={"scan": "scans/*.ply"},
        table=TABLE,
        out=OUT,
        numbers={"faces": "faces", "top": "max(geo.points.position.y)"},
        cluster=cluster,
        on_entry=lambda entry, done, total: told.append((done, total)),
    )
    assert told == [(number, 8) for number in range(1, 9)]
    assert not made.failed
    assert sorted(path.name for path in Path("out").glob("*.ply"))[:2] == ["bay-0.1.ply", "bay-0.2.ply"]
    alone = run_graph(graph, dials={"lift": 0.2}, inputs={"scan": Geo.read("scans/bay.ply")})
    assert Geo.read("out/bay-0.2.ply").digest == alone.digest
    table = parquet.read_table("out/manifest.parquet").to_pydict()
    assert table["numbers.faces"] == [one["counts"]["faces"] for one in made.entries]
    assert set(table["numbers.top"]) == {0.1, 0.2}
    assert table["site"] == [None] * 4 + ["north"] * 4
    assert all(memory > 50e6 for memory in table["memory"]), "bytes that the worker held"


def test_called_again_it_makes_only_what_is_missing_or_changed(
    cluster: Cluster, graph: dict[str, Any], scans: Path
) -> None:
    def run(table: list[dict[str, Any]]) -> tuple[int, int]:
        found = run_batch(graph, inputs={"scan": "scans/*.ply"}, table=table, out=OUT, cluster=cluster)
        return found.again, len(found.entries)

    assert run(TABLE[:1]) == (0, 4)
    before = bytes_in(Path("out"))
    assert run(TABLE) == (4, 8)
    assert run(TABLE) == (8, 8)
    Path("out/east-0.1.ply").write_bytes(b"somebody's")
    Path("scans/west.ply").write_bytes(Path("scans/bay.ply").read_bytes())
    assert run(TABLE) == (5, 8), "one file was changed, and a scan with two results"
    after = bytes_in(Path("out"))
    assert after["east-0.1.ply"] == before["east-0.1.ply"]
    assert after["west-0.1.ply"] == before["bay-0.1.ply"]
    graph["nodes"]["up"]["parameters"]["distance"] = {"formula": "lift * 2"}
    assert run(TABLE) == (0, 8), "another graph"


def test_a_row_that_fails_is_said_and_stops_nothing(cluster: Cluster, graph: dict[str, Any], scans: Path) -> None:
    (scans / "broken.ply").write_bytes(b"ply\nnot at all")
    table = [{"lift": 0.1}, {"lift": "high"}]
    made = run_batch(graph, inputs={"scan": "scans/*.ply"}, table=table, out="out/{row}.ply", cluster=cluster)
    failed = {Path(one["inputs"]["scan"]).stem: one["error"] for one in made.failed if one["values"]["lift"] == 0.1}
    assert list(failed) == ["broken"]
    assert failed["broken"]
    odd = [
        one["error"] for one in made.failed if one["values"]["lift"] == "high" and "broken" not in one["inputs"]["scan"]
    ]
    assert len(odd) == 4
    assert all("lift" in error for error in odd)
    assert len(made.entries) == 10
    assert len(bytes_in(Path("out"))) == 4


def test_stopped_it_keeps_what_is_done(cluster: Cluster, graph: dict[str, Any], scans: Path) -> None:
    table = [{"fine.levels": 1, "lift": 0.001 * number} for number in range(60)]
    done: list[Any] = []

    def run(stop_after: int) -> Any:
        return run_batch(
            graph,
            inputs={"scan": "scans/bay.ply"},
            table=table,
            cluster=cluster,
            manifest="kept/list",
            on_entry=lambda entry, *_: done.append(entry),
            should_stop=lambda: len(done) >= stop_after,
        )

    first = run(5)
    assert 5 <= len(first.entries) < 60
    assert parquet.read_table("kept/list.parquet").num_rows == len(first.entries)
    second = run(1000)
    assert len(second.entries) == 60
    assert second.again == len(first.entries)
    assert len(done) == 60, "nothing was made twice"


def test_equal_rows_are_made_once(cluster: Cluster, graph: dict[str, Any], scans: Path) -> None:
    made = run_batch(
        graph, inputs={"scan": "scans/bay.ply"}, table=[{"lift": 0.1}] * 3, out="out/{row}.ply", cluster=cluster
    )
    assert len({one["digest"] for one in made.entries}) == 1
    assert len({one["worker"] + str(one["seconds"]) for one in made.entries}) == 1
    assert len(set(bytes_in(Path("out")).values())) == 1
    assert len(bytes_in(Path("out"))) == 3


def test_rows_of_other_values_and_the_same_result_all_get_their_file(
    cluster: Cluster, graph: dict[str, Any], scans: Path
) -> None:
    graph["dials"]["idle"] = {"type": "number", "value": 0.0}
    table = [{"idle": float(number)} for number in range(12)]
    made = run_batch(graph, inputs={"scan": "scans/bay.ply"}, table=table, out="out/{row}.ply", cluster=cluster)
    assert not made.failed
    assert len({one["key"] for one in made.entries}) == 12
    assert len(bytes_in(Path("out"))) == 12
    assert len(set(bytes_in(Path("out")).values())) == 1


def test_shapes_that_a_graph_names_come_from_beside_it_or_are_given(
    cluster: Cluster, scans: Path, tmp_path: Path
) -> None:
    graph = {"format": "reticula graph", "version": 1, "nodes": {}}
    graph["nodes"] = {"reef": {"operator": "project_shape", "parameters": {"shape": "reef"}}}
    with pytest.raises(GraphError, match="row 1 needs the shape 'reef': give it with --in reef=FILE"):
        run_batch(graph, cluster=cluster)
    made = run_batch(graph, inputs={"reef": "scans/*.ply"}, cluster=cluster)
    assert [one["counts"]["faces"] for one in made.entries] == [4, 9, 16, 25]


@pytest.mark.parametrize(
    ("values", "message"), [({"hight": 1}, "no dial 'hight'; the graph has lift"), ({"wall.size": 1}, "no node 'wall'")]
)
def test_values_that_nothing_takes_are_refused_before_anything_is_made(
    graph: dict[str, Any], scans: Path, values: dict[str, Any], message: str
) -> None:
    with pytest.raises(GraphError, match=message):
        run_batch(graph, inputs={"scan": "scans/*.ply"}, values=values)


def test_a_package_is_made_as_a_graph_is(cluster: Cluster, scans: Path, tmp_path: Path) -> None:
    library, _ = published()
    Path("lift.zip").write_bytes(write_package("lift@1.0.0", library.definitions, {}, {}))
    made = run_batch(
        "lift.zip",
        inputs={"geo": "scans/bay.ply"},
        table=[{"height": 1.0}, {"height": 4.0}],
        numbers={"top": "high.y"},
        cluster=cluster,
    )
    assert [one["numbers"]["top"] for one in made.entries] == [1.0, 4.0]


def test_dials_are_varied_in_every_combination_and_drawn(cluster: Cluster, graph: dict[str, Any], scans: Path) -> None:
    graph["dials"]["levels"] = {"type": "integer", "value": 1}
    graph["nodes"]["fine"]["parameters"] = {"levels": {"formula": "levels"}}
    made = run_batch(
        graph,
        inputs={"scan": "scans/bay.ply"},
        vary={"lift": "0.1,0.2", "levels": Uniform(1, 2)},
        count=4,
        spread="sobol",
        numbers={"top": "high.y"},
        cluster=cluster,
    )
    assert len(made.entries) == 8
    assert [one["numbers"]["top"] for one in made.entries] == [0.1] * 4 + [0.2] * 4
    assert {one["values"]["levels"] for one in made.entries} == {1, 2}
    with pytest.raises(GraphError, match="nothing is called 'lifts'; dials are lift, levels"):
        run_batch(graph, inputs={"scan": "scans/bay.ply"}, vary={"lifts": "1"})
    with pytest.raises(GraphError, match="'lift' is varied, and a column of the table"):
        run_batch(graph, inputs={"scan": "scans/bay.ply"}, vary={"lift": "1"}, table=[{"lift": 2}])
