"""Reading in a process of its own what a library of other languages may trip over: a damaged file may end that process
or hold it up, and nothing else.

The shape comes back as a GLB, which holds all of it, and is read as carefully as any file.
"""

from __future__ import annotations

import json
import os
import resource
import signal
import subprocess
import sys
import tempfile
from pathlib import Path

from reticula.core.diagnostics import collecting, note, warn
from reticula.core.errors import FormatError
from reticula.core.geometry import Geo

__all__ = ["MOST_SECONDS", "limit_memory", "read_apart"]

MOST_SECONDS = 300.0
LEAST_MEMORY = 750_000_000
MEMORY_PER_BYTE = 40
"""Bytes a reader may take, and as many more for each byte of its file."""


def read_apart(ending: str, data: bytes) -> Geo:
    """Read the content of a file in another process; raise FormatError for what it says, or if it gives up."""
    with tempfile.TemporaryDirectory() as folder:
        place = Path(folder)
        (place / f"file.{ending}").write_bytes(data)
        command = [sys.executable, "-m", "reticula.core.formats.apart", str(place), ending]
        with subprocess.Popen(
            command, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, env=_environment()
        ) as child:
            try:
                status = child.wait(MOST_SECONDS)
            except subprocess.TimeoutExpired:
                raise FormatError(f"reading took more than {MOST_SECONDS:.0f} s; the file may be damaged") from None
            finally:
                child.kill()
        if status or not (place / "told.json").is_file():
            how = f" ({signal.Signals(-status).name})" if status < 0 else ""
            raise FormatError(f"the file is damaged: its reader gave up{how}")
        told = json.loads((place / "told.json").read_text())
        if "error" in told:
            raise FormatError(told["error"], byte=told["byte"], line=told["line"])
        for level, text in told["notes"]:
            (warn if level == "warning" else note)(text)
        from reticula.core.formats.gltf import read

        return read((place / "shape.glb").read_bytes()) if (place / "shape.glb").is_file() else Geo.empty()


def _environment() -> dict[str, str]:
    """Return ours, with where this code lies; one thread is enough for a reader."""
    above = str(Path(__file__).parents[3])
    known = os.environ.get("PYTHONPATH")
    return {**os.environ, "PYTHONPATH": f"{above}{os.pathsep}{known}" if known else above, "NUMBA_NUM_THREADS": "1"}


def main(folder: str, ending: str) -> None:
    """Read what lies in a folder, and put the shape beside it, or what is wrong."""
    from reticula.core.formats import FORMATS
    from reticula.core.formats.gltf import write

    place = Path(folder)
    try:
        content = (place / f"file.{ending}").read_bytes()
        limit_memory(len(content))
        with collecting() as notes:
            geo = FORMATS[ending].read(content)
        told: dict[str, object] = {"notes": [[one.level, one.text] for one in notes]}
        with collecting():
            data = write(geo)
        if geo.topology.point_count or geo.topology.instance_count:
            (place / "shape.glb").write_bytes(data)
    except FormatError as error:
        plain = str(error).partition(": ")[2] if error.byte is not None or error.line is not None else str(error)
        told = {"error": plain, "byte": error.byte, "line": error.line}
    (place / "told.json").write_text(json.dumps(told))


def limit_memory(size: int) -> None:
    """Let this process take no more memory than reading a file of ``size`` bytes may need, beyond what it has."""
    if sys.platform != "linux":
        return
    has = next(line for line in Path("/proc/self/status").read_text().splitlines() if line.startswith("VmData:"))
    most = int(has.split()[1]) * 1024 + LEAST_MEMORY + size * MEMORY_PER_BYTE
    resource.setrlimit(resource.RLIMIT_DATA, (most, resource.getrlimit(resource.RLIMIT_DATA)[1]))


if __name__ == "__main__":
    main(*sys.argv[1:])
