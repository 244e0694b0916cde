"""Reading and writing files, beside the libraries that others use for it."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import laspy
import meshio
import numpy as np
import trimesh
from pxr import Usd, UsdGeom, Vt

from bench.measure import Row, compare
from bench.operators import bumpy_ball
from reticula.core import Geo
from reticula.core.diagnostics import collecting
from reticula.core.formats import FORMATS, write_bytes

__all__ = ["rows"]

DIVISIONS = (64, 224)
"""Of the edges of an icosahedron: 81,920 and 1,003,520 faces."""


def rows() -> Iterator[Row]:
    """Yield reading and writing of each format, in memory but for what works on files: meshio, USD, the disk itself."""
    for divisions in DIVISIONS:
        ball = bumpy_ball(divisions)
        yield from _meshes(ball)
        yield from _on_disk(ball)
        yield from _usd(ball)
        yield from _points(ball)


def _quiet(way: Callable[[], Any]) -> Callable[[], Any]:
    def run() -> Any:
        with collecting():
            return way()

    return run


def _meshes(ball: Geo) -> Iterator[Row]:
    mesh = trimesh.Trimesh(np.array(ball.positions), ball.topology.corner_point.reshape(-1, 3), process=False)
    text = ball.topology.face_count < 100_000
    for name in ("ply", "stl", "glb", *(("obj", "off") if text else ())):
        options = {"values": "plain"} if name == "glb" else {}
        data = write_bytes(ball, f"a.{name}", **options)
        size = f"{ball.topology.face_count:,} faces, {len(data) / 1e6:.1f} MB"
        ours = _quiet(lambda name=name, options=options: write_bytes(ball, f"a.{name}", **options))
        yield compare(f"write {name.upper()}", size, ours, "trimesh", lambda name=name: mesh.export(file_type=name), 3)
        # STL knows no shared points: both find them again. The others are read as they are.
        find = name == "stl"
        yield compare(
            f"read {name.upper()}",
            size,
            _quiet(lambda name=name, data=data: FORMATS[name].read(data)),
            "trimesh, points shared" if find else "trimesh, nothing checked",
            lambda name=name, data=data, find=find: trimesh.load(io.BytesIO(data), file_type=name, process=find),
            3,
        )


def _on_disk(ball: Geo) -> Iterator[Row]:
    """PLY as a file, beside meshio and beside the bare bytes, which come from the disk and go there as fast as it
    can.
    """
    mesh = meshio.Mesh(np.array(ball.positions), [("triangle", ball.topology.corner_point.reshape(-1, 3))])
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.ply"

        def theirs() -> None:
            mesh.write(path, file_format="ply", binary=True)

        ours = _quiet(lambda: ball.write(path))
        ours()
        data = path.read_bytes()
        size = f"{ball.topology.face_count:,} faces, {len(data) / 1e6:.1f} MB"
        yield compare("write PLY, a file", size, ours, "meshio", theirs, 3)
        yield compare("write PLY, a file", size, ours, "the bare bytes", lambda: path.write_bytes(data), 3)
        ours()
        read = _quiet(lambda: Geo.read(path))
        yield compare("read PLY, a file", size, read, "meshio", lambda: meshio.read(path), 3)
        yield compare("read PLY, a file", size, read, "the bare bytes", path.read_bytes, 3)


def _usd(ball: Geo) -> Iterator[Row]:
    """USD beside its own library, which is told the bare arrays and asked for them."""
    places = np.ascontiguousarray(ball.positions, np.float32)
    corner = np.ascontiguousarray(ball.topology.corner_point, np.int32)
    sizes = np.full(ball.topology.face_count, 3, np.int32)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bare.usdc"

        def written() -> bytes:
            stage = Usd.Stage.CreateInMemory()
            mesh = UsdGeom.Mesh.Define(stage, "/mesh")
            mesh.CreatePointsAttr(Vt.Vec3fArray.FromNumpy(places))
            mesh.CreateFaceVertexCountsAttr(Vt.IntArray.FromNumpy(sizes))
            mesh.CreateFaceVertexIndicesAttr(Vt.IntArray.FromNumpy(corner))
            stage.GetRootLayer().Export(str(path))
            return path.read_bytes()

        def read() -> Any:
            mesh = UsdGeom.Mesh(next(iter(_opened(path).Traverse())))
            return np.array(mesh.GetPointsAttr().Get()), np.array(mesh.GetFaceVertexIndicesAttr().Get())

        data = written()
        size = f"{len(sizes):,} faces, {len(data) / 1e6:.1f} MB"
        yield compare(
            "write USD", size, _quiet(lambda: write_bytes(ball, "a.usdc")), "usd-core, bare arrays", written, 3
        )
        yield compare("read USD", size, _quiet(lambda: FORMATS["usdc"].read(data)), "usd-core, bare arrays", read, 3)


_kept: list[Any] = []


def _opened(path: Path) -> Any:
    """Open a stage that stays for as long as its prims are looked at."""
    _kept[:] = [Usd.Stage.Open(str(path))]
    return _kept[0]


def _points(ball: Geo) -> Iterator[Row]:
    cloud = Geo.of(ball.positions)
    data = write_bytes(cloud, "a.las")
    size = f"{len(ball.positions):,} points, {len(data) / 1e6:.1f} MB"

    def written() -> None:
        header = laspy.LasHeader(version="1.4", point_format=6)
        header.scales = np.full(3, 1e-4)
        made = laspy.LasData(header)
        made.x, made.y, made.z = ball.positions.T
        made.write(io.BytesIO())

    yield compare("write LAS", size, lambda: write_bytes(cloud, "a.las"), "laspy, bare", written, 3)
    yield compare(
        "read LAS", size, lambda: FORMATS["las"].read(data), "laspy, bare", lambda: laspy.read(io.BytesIO(data)).xyz, 3
    )
