"""Files damaged in every way that occurs, read one after another in a process of its own.

The process may die of a file only where the product itself reads that format in a process of its own.
"""

from __future__ import annotations

import io
import json
import multiprocessing
import os
import random
import resource
import time
import zipfile
from collections import Counter
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from typing import Any

import imagecodecs
import imageio.v3 as imageio
import numpy as np
import tifffile

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, write_bytes
from reticula.core.formats.apart import limit_memory
from reticula.core.reports.summary import describe_geo
from tests.mutating import mutated

__all__ = ["Found", "damaged", "hunt", "sample", "sound_file"]

SLOW = 20.0
WORDS = [
    b"nan ",
    b"1e400 ",
    b"-1 ",
    b"\xff\xfe",
    b"9999999999 ",
    b"\x00",
    b"\xff" * 8,
    b"\x7f\xff\xff\xff",
    b"<!--",
    b"]]>",
]


@dataclass
class Found:
    """What became of the damaged files of a format: how many were read, refused, ended their process; what was wrong
    with the reader, the longest time in s, and the most memory in MB beyond what an idle reader has.
    """

    ending: str
    answers: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    slowest: float = 0.0
    memory: float = 0.0


def sample() -> Geo:
    """Return faces, a curve and points with values of several kinds."""
    tile = ops.triangulate(ops.set_attribute(ops.torus(segments=6, sides=5), name="heat", value="position.y"))
    tile = ops.group(tile, name="crest", kind="face", where="index % 3 == 0")
    return ops.join(tile, ops.set_attribute(ops.circle(), name="heat", value=0.5))


def sound_file(ending: str) -> bytes:
    """Return a file of a format that nothing is wrong with."""
    pixels = np.arange(12 * 9 * 3, dtype=np.uint16).reshape(12, 9, 3) * 100
    if ending in ("tif", "tiff"):
        out = io.BytesIO()
        tifffile.imwrite(out, pixels, photometric="rgb", compression="lzw" if ending == "tif" else None)
        return out.getvalue()
    if ending in ("jpg", "jpeg"):
        return bytes(imageio.imwrite("<bytes>", (pixels >> 8).astype(np.uint8), extension=".jpg"))
    if ending == "png":
        return bytes(imagecodecs.png_encode(pixels))
    with collecting():
        return write_bytes(sample(), f"a.{ending}")


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Return the file with some bytes changed, cut out, doubled or added; of an archive or a glTF also inside of it."""
    if data[:2] == b"PK" and rng.random() < 0.7:
        return _damaged_archive(data, rng)
    if data[:4] == b"glTF" and rng.random() < 0.7:
        return _damaged_glb(data, rng)
    if data[:1] == b"{" and rng.random() < 0.7:
        return json.dumps(mutated(json.loads(data), rng)).encode(errors="surrogatepass")
    if data[:8] == b"ASTM-E57" and rng.random() < 0.7:
        return _damaged_pages(data, rng)
    return _scarred(data, rng)


def _scarred(data: bytes, rng: random.Random) -> bytes:
    made = bytearray(data)
    for _ in range(rng.choice([1, 1, 2, 8])):
        # Half of the scars are where most formats keep their head.
        reach = len(made) if rng.random() < 0.5 else min(len(made), 600)
        at, many = rng.randrange(reach + 1), rng.choice([1, 1, 4, 100])
        match rng.randrange(5):
            case 0:
                made[at : at + many] = rng.randbytes(many)
            case 1:
                del made[at : at + many]
            case 2:
                made[at:at] = made[at : at + many]
            case 3:
                del made[at:]
            case _:
                made[at:at] = rng.choice(WORDS)
    return bytes(made)


def _damaged_archive(data: bytes, rng: random.Random) -> bytes:
    """Return a sound archive of which one file is damaged."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as archive, zipfile.ZipFile(out, "w") as made:
        names = archive.namelist()
        chosen = rng.choice(names)
        for name in names:
            made.writestr(name, _scarred(archive.read(name), rng) if name == chosen else archive.read(name))
    return out.getvalue()


def _damaged_glb(data: bytes, rng: random.Random) -> bytes:
    """Return a GLB whose head is sound JSON that says something else."""
    length = int.from_bytes(data[12:16], "little")
    text = json.dumps(mutated(json.loads(data[20 : 20 + length]), rng)).encode(errors="surrogatepass")
    text += b" " * (-len(text) % 4)
    rest = data[20 + length :]
    total = 20 + len(text) + len(rest)
    head = data[:8] + total.to_bytes(4, "little") + len(text).to_bytes(4, "little")
    return head + data[16:20] + text + rest


PAGE = 1024
"""Bytes of a page of an E57 file; the last four are the checksum of the others (ASTM E2807)."""


def _damaged_pages(data: bytes, rng: random.Random) -> bytes:
    """Return an E57 whose pages have right checksums and wrong contents."""
    content = b"".join(data[at : at + PAGE - 4] for at in range(0, len(data), PAGE))
    scarred = _scarred(content, rng)[: len(content)].ljust(len(content), b"\0")
    pages = [scarred[at : at + PAGE - 4] for at in range(0, len(scarred), PAGE - 4)]
    return b"".join(page + _crc32c(page).to_bytes(4, "big") for page in pages)


def _crc32c(data: bytes) -> int:
    """Return the CRC-32C of some bytes (Castagnoli's polynomial, as in RFC 3720)."""
    value = 0xFFFFFFFF
    for byte in data:
        value = value >> 8 ^ CRC_TABLE[(value ^ byte) & 255]
    return value ^ 0xFFFFFFFF


def _crc_of(byte: int) -> int:
    for _ in range(8):
        byte = byte >> 1 ^ (0x82F63B78 if byte & 1 else 0)
    return byte


CRC_TABLE = [_crc_of(byte) for byte in range(256)]


def hunt(ending: str, count: int, seed: int = 0) -> Found:
    """Read ``count`` damaged files of a format; the same seed gives the same files."""
    rng, found = random.Random(f"{ending} {seed}"), Found(ending)
    sound = sound_file(ending)
    reader = _Reader(ending)
    try:
        answer, _, idle = reader.read(sound)
        assert answer == "read", answer
        for number in range(count):
            data = damaged(sound, rng) or b"\n"
            answer, seconds, memory = reader.read(data)
            found.slowest, found.memory = max(found.slowest, seconds), max(found.memory, memory - idle)
            if answer not in ("read", "refused") and not (answer == "gave up" and FORMATS[ending].apart):
                found.faults.append(f"file {number}: {answer}")
                answer = "fault"
            found.answers[answer] += 1
    finally:
        reader.close()
    if found.slowest > SLOW:
        found.faults.append(f"a file took {found.slowest:.1f} s")
    if found.memory > 1000:
        found.faults.append(f"a file took {found.memory:.0f} MB")
    return found


class _Reader:
    """A process that reads files of one format, begun anew when a file has ended it."""

    def __init__(self, ending: str) -> None:
        self.ending = ending
        self._begin()

    def _begin(self) -> None:
        context = multiprocessing.get_context("spawn")
        self.ours, theirs = context.Pipe()
        self.process = context.Process(target=_serve, args=(theirs, self.ending), daemon=True)
        self.process.start()
        theirs.close()

    def read(self, data: bytes) -> tuple[str, float, float]:
        """Return what became of a file, the seconds and the MB that the process has held at most."""
        began = time.monotonic()
        try:
            self.ours.send_bytes(data)
            if not self.ours.poll(3 * SLOW):
                return "never came back", time.monotonic() - began, 0.0
            answer: tuple[str, float, float] = self.ours.recv()
            return answer
        except (EOFError, ConnectionError):
            self.close()
            self._begin()
            return "gave up", 0.0, 0.0

    def close(self) -> None:
        self.process.kill()
        self.process.join()
        self.ours.close()


def _serve(theirs: Connection, ending: str) -> None:
    chosen = FORMATS[ending]
    if chosen.apart:
        limit_memory(0)
        os.dup2(os.open(os.devnull, os.O_WRONLY), 2)  # what libraries say of a file, nobody reads
    while True:
        try:
            data = theirs.recv_bytes()
        except EOFError:
            return
        began = time.monotonic()
        answer = _read(chosen.read, data)
        memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        theirs.send((answer, time.monotonic() - began, memory))


def _read(read: Any, data: bytes) -> str:
    try:
        with collecting():
            describe_geo(read(data))
    except FormatError as error:
        return "refused" if str(error).strip() else "refused without a word"
    except Exception as error:
        return f"{type(error).__name__}: {error}"
    return "read"
