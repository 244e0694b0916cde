"""Films: pictures of frames, as the page drew them, joined into one file."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from av.filter import Graph

from reticula.core.errors import FormatError, Stopped

__all__ = ["FILMS", "MOST_PICTURES", "join_film"]

FILMS = {
    "mp4": ("mp4", "libx264", "yuv420p", {"crf": "18", "preset": "medium", "movflags": "+faststart"}),
    "webm": ("webm", "libvpx-vp9", "yuva420p", {"crf": "24", "b": "0", "deadline": "good", "cpu-used": "4"}),
    "webp": ("webp", "libwebp_anim", "bgra", {"quality": "90"}),
    "gif": ("gif", "gif", "pal8", {}),
}
"""What FFmpeg is told, by ending: container, codec, layout of pixels, and settings (common practice, no source)."""
FOR_EVER = {"loop": "0"}
"""How often films that pages play by themselves, GIF and WebP, begin again."""
MOST_PICTURES = 10_000
MOST_PIXELS = 64_000_000
MOST_BYTES = 2 * 1024**3
PNG = b"\x89PNG\r\n\x1a\n"


def join_film(
    pictures: Path,
    target: Path,
    rate: float,
    tell: Callable[[int, int, str], None] = lambda *_: None,
    should_stop: Callable[[], bool] = lambda: False,
) -> int:
    """Join the PNG pictures of a ZIP file, in the order of their names, and return how many there are.

    The ending of ``target`` says the format; ``rate`` is in pictures per second. Raises FormatError for what are no
    pictures, or no two of a size; Stopped as soon as ``should_stop`` says so between two pictures.
    """

    def watched(frames: Iterator[av.VideoFrame], total: int) -> Iterator[av.VideoFrame]:
        for number, frame in enumerate(frames):
            if should_stop():
                raise Stopped("stopped before the film was finished")
            tell(number, total, "film")
            yield frame

    with zipfile.ZipFile(_checked(pictures)) as file:
        names = sorted(file.namelist())
        frames = watched(_frames(file, names), len(names))
        _join(frames, target, rate)
    return len(names)


def _join(frames: Iterator[av.VideoFrame], target: Path, rate: float) -> None:
    container, codec, layout, options = FILMS[target.suffix[1:]]
    stream: Any = None
    again = FOR_EVER if container in ("gif", "webp") else {}
    with av.open(str(target), "w", format=container, container_options=again) as out:
        for number, frame in enumerate(_in_colours(frames, layout, rate)):
            if stream is None:
                stream = out.add_stream(codec, rate=Fraction(rate).limit_denominator(1000), options=options)
                stream.pix_fmt, stream.width, stream.height = layout, frame.width, frame.height
                if layout.startswith("yuv"):
                    stream.width, stream.height = frame.width - frame.width % 2, frame.height - frame.height % 2
            if layout != "pal8":
                frame = frame.reformat(width=stream.width, height=stream.height, format=layout)
            frame.pts, frame.time_base = number, 1 / Fraction(rate).limit_denominator(1000)
            out.mux(stream.encode(frame))
        out.mux(stream.encode())


def _checked(pictures: Path) -> Path:
    """Return the file if it is a ZIP of pictures within limits; raise FormatError."""
    if not zipfile.is_zipfile(pictures):
        raise FormatError("this is no ZIP file of pictures")
    with zipfile.ZipFile(pictures) as file:
        entries = file.infolist()
    if not entries:
        raise FormatError("there are no pictures in this film; choose at least one frame")
    if len(entries) > MOST_PICTURES:
        raise FormatError(f"{len(entries):,} pictures are too many; a film takes at most {MOST_PICTURES:,}")
    if sum(entry.file_size for entry in entries) > MOST_BYTES:
        raise FormatError(f"the pictures are larger than {MOST_BYTES // 1024**3} GB; make them smaller or fewer")
    return pictures


def _frames(file: zipfile.ZipFile, names: list[str]) -> Iterator[av.VideoFrame]:
    """Yield the pictures; raise FormatError that names the one that is wrong."""
    size: tuple[int, int] | None = None
    for name in names:
        data = file.read(name)
        if not data.startswith(PNG) or len(data) < 33:
            raise FormatError(f"'{name}' is no PNG picture")
        here = int.from_bytes(data[16:20]), int.from_bytes(data[20:24])
        if not 0 < here[0] * here[1] <= MOST_PIXELS:
            raise FormatError(f"'{name}' is {here[0]} x {here[1]} pixels; at most {MOST_PIXELS:,} can be joined")
        if size is not None and here != size:
            raise FormatError(f"'{name}' is {here[0]} x {here[1]} pixels, those before are {size[0]} x {size[1]}")
        size = here
        try:
            with av.open(io.BytesIO(data), "r") as picture:
                yield next(picture.decode(video=0)).reformat(format="rgba")
        except (av.FFmpegError, StopIteration):
            raise FormatError(f"'{name}' is damaged") from None


def _in_colours(frames: Iterator[av.VideoFrame], layout: str, rate: float) -> Iterator[av.VideoFrame]:
    """Yield the pictures as they are; for a GIF, in the 256 colours that suit all of them best."""
    if layout != "pal8":
        yield from frames
        return
    graph: Graph | None = None
    for number, frame in enumerate(frames):
        if graph is None:
            graph = _palette_graph(frame, rate)
        frame.pts = number
        graph.push(frame)
    if graph is None:
        return
    graph.push(None)
    while True:
        try:
            made = graph.pull()
        except (av.EOFError, av.BlockingIOError):
            return
        assert isinstance(made, av.VideoFrame)
        yield made


def _palette_graph(frame: av.VideoFrame, rate: float) -> Graph:
    graph = Graph()
    tick = 1 / Fraction(rate).limit_denominator(1000)
    source = graph.add_buffer(width=frame.width, height=frame.height, format=frame.format, time_base=tick)
    split, found = graph.add("split"), graph.add("palettegen", "reserve_transparent=1")
    used, sink = graph.add("paletteuse"), graph.add("buffersink")
    source.link_to(split)
    split.link_to(found, 0, 0)
    split.link_to(used, 1, 0)
    found.link_to(used, 0, 1)
    used.link_to(sink)
    graph.configure()
    return graph
