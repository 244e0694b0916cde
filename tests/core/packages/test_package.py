"""Packages: out and in, nothing lost, and whatever is malformed or tampered with is refused."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core import load_package, ops
from reticula.core.errors import FormatError, ReticulaError
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import prepare, read_package, write_package
from reticula.core.packages.definition import content_name
from tests.core.graph.building import graph, node
from tests.core.packages.studio import ABOUT, published, release
from tests.helpers import examples, rezipped

PNG = b"\x89PNG\r\n\x1a\n" + b"picture"


def made_package() -> bytes:
    library, _ = published()
    inner = graph({"one": node("lift@1.0.0", "geo")}, inputs=("geo",), outputs={"geo": "one"})
    release(graph({"a": node("box"), "b": node("folded", "a", graph=inner)}), library, name="outer")
    return write_package("outer@1.0.0", library.definitions, {}, {"outer@1.0.0": PNG})


def changed(change: Any) -> bytes:
    """The package with its files changed by ``change(files)``, hashes as they were."""
    return rezipped(made_package(), change)


def signed(change: Any) -> bytes:
    """The package with its files changed, and the list of contents made to fit."""

    def all_of(files: dict[str, bytes]) -> None:
        change(files)
        manifest = json.loads(files["package.json"])
        manifest["files"] = {
            n: {"sha256": hashlib.sha256(d).hexdigest(), "size": len(d)}
            for n, d in files.items()
            if n != "package.json"
        }
        files["package.json"] = json.dumps(manifest).encode()

    return changed(all_of)


def test_a_package_holds_all_that_is_needed_and_is_the_same_each_time(tmp_path: Path) -> None:
    data = made_package()
    assert data == made_package()
    package = read_package(data)
    assert set(package.definitions) == {"lift@1.0.0", "outer@1.0.0"}
    assert package.pictures == {"outer@1.0.0": PNG}
    assert write_package(package.main, package.definitions, package.shapes, package.pictures) == data
    (tmp_path / "outer.zip").write_bytes(data)
    outer = load_package(tmp_path / "outer.zip")
    assert outer(ops.box()).bounds[0, 1] == pytest.approx(0.5)
    assert outer.operators["lift@1.0.0"](ops.box(), height=2.0).bounds[0, 1] == pytest.approx(1.5)


def test_shapes_go_along_under_a_name_that_says_their_content() -> None:
    mesh = write_bytes(ops.box(size=(3, 1, 1)), "scan.ply")
    digest = hashlib.sha256(mesh).hexdigest()
    name = content_name("scan", digest)
    inner = graph({"s": node("project_shape", shape="scan")}, outputs={"geo": "s"})
    document = graph({"b": node("folded", graph=inner)})
    shapes = DiskResources({"scan": ops.box(size=(3, 1, 1)), name: ops.box(size=(3, 1, 1))})
    made = prepare(
        document,
        "",
        "b",
        {**ABOUT, "name": "scanned"},
        shapes=shapes,
        stored={"scan": (name, {"file_name": "scan.ply", "sha256": digest})},
    )
    assert made.definition["graph"]["nodes"]["s"]["parameters"]["shape"] == name
    data = write_package("scanned@1.0.0", {"scanned@1.0.0": made.definition}, {name: ("scan.ply", mesh)}, {})
    assert read_package(data)().bounds[1, 0] == pytest.approx(1.5)
    assert document["nodes"]["b"]["graph"]["nodes"]["s"]["parameters"]["shape"] == "scan"


def test_a_table_that_a_dial_follows_goes_along() -> None:
    log = b"hours,level\n0,1\n1,3\n"
    digest = hashlib.sha256(log).hexdigest()
    name = content_name("tide", digest)
    follows = {"table": "tide", "time": "hours", "value": "level", "unit": "h", "speed": 3600.0, "otherwise": 0.0}
    inner = graph(
        {"up": node("transform", "geo", move="vec3(0, water, 0)")},
        inputs=("geo",),
        outputs={"geo": "up"},
        dials={"water": {"type": "number", "value": follows}},
    )
    document = graph({"a": node("box"), "b": node("folded", "a", graph=inner)})
    tide = read_bytes("tide.csv", log)
    made = prepare(
        document,
        "",
        "b",
        {**ABOUT, "name": "tidal"},
        shapes=DiskResources({"tide": tide, name: tide}),
        stored={"tide": (name, {"file_name": "tide.csv", "sha256": digest})},
    )
    data = write_package("tidal@1.0.0", {"tidal@1.0.0": made.definition}, {name: ("tide.csv", log)}, {})
    tidal = read_package(data)
    assert tidal(ops.box(), frame=12).bounds[0, 1] == pytest.approx(1.5)
    assert tidal(ops.box(), frame=24).bounds[0, 1] == pytest.approx(2.5)


def tamper(files: dict[str, bytes]) -> None:
    files["operators/lift-1.0.0.json"] = files["operators/lift-1.0.0.json"].replace(b"Moves up", b"Moves UP")


def definition_with(**parts: Any) -> Any:
    def change(files: dict[str, bytes]) -> None:
        definition = json.loads(files["operators/lift-1.0.0.json"])
        files["operators/lift-1.0.0.json"] = json.dumps({**definition, **parts}).encode()

    return change


def without(name: str) -> Any:
    return lambda files: files.pop(name)


def added(name: str, data: bytes = b"x") -> Any:
    return lambda files: files.__setitem__(name, data)


def loop(files: dict[str, bytes]) -> None:
    definition = json.loads(files["operators/lift-1.0.0.json"])
    definition["graph"]["nodes"]["up"]["operator"] = "outer@1.0.0"
    files["operators/lift-1.0.0.json"] = json.dumps(definition).encode()


@pytest.mark.parametrize(
    ("data", "message"),
    [
        (lambda: b"", "not a whole package"),
        (lambda: b"no zip at all", "not a whole package"),
        (lambda: made_package()[:-100], "not a whole package"),
        (lambda: changed(tamper), "is not as it was when the package was made"),
        (lambda: changed(without("package.json")), "there is no package.json"),
        (lambda: changed(without("pictures/outer-1.0.0.png")), "which is missing"),
        (lambda: changed(added("evil.sh")), "does not list it"),
        (lambda: changed(added("package.json", b"{")), "is not JSON"),
        (lambda: changed(added("package.json", b"[" * 100_000)), "is not JSON"),
        (lambda: signed(added("../evil.json")), "package.json is not valid"),
        (lambda: signed(added("pictures/a-1.0.0.png", b"<svg>")), "is not a PNG"),
        (lambda: signed(without("operators/lift-1.0.0.json")), "'lift@1.0.0' is needed, but it is not in the package"),
        (lambda: signed(without("operators/outer-1.0.0.json")), "the package's operator 'outer@1.0.0' is not in it"),
        (lambda: signed(definition_with(release="1.0.1")), "holds 'lift@1.0.1'"),
        (lambda: signed(definition_with(format="other")), "not valid"),
        (lambda: signed(definition_with(graph={"nodes": 3})), "holds no graph"),
        (
            lambda: signed(definition_with(shapes={"a#0123456789abcdef": {"file_name": "a.ply", "sha256": "0" * 64}})),
            "is missing",
        ),
        (lambda: signed(loop), "uses itself"),
    ],
)
def test_malformed_and_tampered_packages_are_refused(data: Any, message: str) -> None:
    with pytest.raises(ReticulaError, match=message):
        read_package(data())


@settings(max_examples=examples(60))
@given(st.data())
def test_no_garbled_package_does_anything_but_be_refused_in_words(data: st.DataObject) -> None:
    whole = bytearray(made_package())
    for _ in range(data.draw(st.integers(1, 4))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    try:
        package = read_package(bytes(whole))
    except ReticulaError as error:
        assert len(str(error)) > 10
        return
    assert set(package.definitions) == {"lift@1.0.0", "outer@1.0.0"}


def test_what_is_missing_is_said_when_a_package_is_made() -> None:
    package = read_package(made_package())
    with pytest.raises(ReticulaError, match=r"'lift@1\.0\.0' is needed"):
        write_package("outer@1.0.0", {"outer@1.0.0": package.definitions["outer@1.0.0"]}, {}, {})
    with pytest.raises(FormatError):
        read_package(b"PK\x03\x04")


def test_a_package_is_called_at_a_frame() -> None:
    rising = {"keys": [{"frame": 0, "value": [0, 0, 0], "way": "straight"}, {"frame": 10, "value": [0, 5, 0]}]}
    inner = graph({"up": node("transform", "geo", move=rising)}, inputs=("geo",), outputs={"geo": "up"})
    library, _ = published()
    release(graph({"a": node("box"), "b": node("folded", "a", graph=inner)}), library, name="rising")
    package = read_package(write_package("rising@1.0.0", library.definitions, {}, {}))
    assert [package(ops.box(), frame=frame).bounds[0, 1] for frame in (0, 4, 20)] == pytest.approx([-0.5, 1.5, 4.5])
    assert package(geo=ops.box(), frame=4).bounds[0, 1] == pytest.approx(1.5)
    with pytest.raises(ReticulaError, match="no such parameter"):
        package(ops.box(), frame=4, hight=2)


def test_a_state_of_a_package_grows_to_a_frame() -> None:
    step = graph({"up": node("transform", "geo", move=[0, 1, 0])}, inputs=("geo",), outputs={"geo": "up"})
    inner = graph({"grown": node("evolve", "geo", graph=step)}, inputs=("geo",), outputs={"geo": "grown"})
    library, _ = published()
    release(graph({"a": node("box"), "b": node("folded", "a", graph=inner)}), library, name="growing")
    package = read_package(write_package("growing@1.0.0", library.definitions, {}, {}))
    assert package(ops.box(), frame=7).bounds[0, 1] == pytest.approx(6.5)
    assert package(ops.box()).bounds[0, 1] == pytest.approx(-0.5)
