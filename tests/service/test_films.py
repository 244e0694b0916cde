"""Films: pictures joined, read back by other libraries, and what is refused."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from flask.testing import FlaskClient
from PIL import Image

from reticula.core.errors import FormatError, Stopped
from reticula.workers.films import FILMS, join_film

COLORS = [(200, 40, 30), (30, 160, 60), (40, 60, 200)]


def picture(number: int, size: tuple[int, int] = (64, 48)) -> bytes:
    """A square of one colour, with soft edges, on nothing, that moves."""
    pixels = np.zeros((size[1], size[0], 4), np.uint8)
    pixels[6:42, 4 * number : 4 * number + 34] = (*COLORS[number % 3], 120)
    pixels[8:40, 4 * number + 2 : 4 * number + 32] = (*COLORS[number % 3], 255)
    made = io.BytesIO()
    Image.fromarray(pixels).save(made, "png")
    return made.getvalue()


def packed(*pictures: bytes) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as file:
        for number, data in enumerate(pictures):
            file.writestr(f"{number:04}.png", data)
    return made.getvalue()


def joined(folder: Path, ending: str, *pictures: bytes, rate: float = 12) -> Path:
    source, target = folder / "pictures.zip", folder / f"film.{ending}"
    source.write_bytes(packed(*pictures))
    assert join_film(source, target, rate) == len(pictures)
    return target


def read_back(path: Path) -> tuple[list[np.ndarray], float]:
    """The pictures and the rate, by FFmpeg; by Pillow where that cannot read them (animated WebP)."""
    if path.suffix == ".webp":
        with Image.open(path) as film:
            found = []
            for number in range(getattr(film, "n_frames", 1)):
                film.seek(number)
                found.append(np.array(film.convert("RGBA")))
            return found, 1000 / film.info["duration"]
    with av.open(str(path)) as film:
        pictures = [frame.to_ndarray(format="rgba") for frame in film.decode(video=0)]
        return pictures, float(film.streams.video[0].average_rate or 0)


@pytest.mark.parametrize("ending", list(FILMS))
def test_all_pictures_are_there_in_order_at_the_rate(tmp_path: Path, ending: str) -> None:
    pictures, rate = read_back(joined(tmp_path, ending, *map(picture, range(7))))
    assert len(pictures) == 7
    assert rate == pytest.approx(12, rel=0.05)
    for number in (0, 6):
        middle = pictures[number][24, 4 * number + 16, :3].astype(int)
        assert np.abs(middle - COLORS[number % 3]).max() < 16


def test_what_is_nothing_stays_nothing_where_the_format_can(tmp_path: Path) -> None:
    for ending in ("webp", "gif"):
        pictures, _ = read_back(joined(tmp_path, ending, picture(0), picture(1)))
        assert pictures[0][2, 60, 3] == 0
        assert pictures[0][24, 16, 3] == 255


def test_odd_sizes_and_one_picture_make_a_film(tmp_path: Path) -> None:
    pictures, _ = read_back(joined(tmp_path, "mp4", picture(0, (63, 47))))
    assert pictures[0].shape[:2] == (46, 62)


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"no zip", "no ZIP file"),
        (packed(), "at least one frame"),
        (packed(b"no picture"), "'0000.png' is no PNG picture"),
        (packed(picture(0), picture(1, (32, 48))), "'0001.png' is 32 x 48 pixels, those before are 64 x 48"),
        (packed(picture(0)[:60]), "'0000.png' is damaged"),
        (packed(picture(0)[:16] + b"\xff\xff\xff\x7f" * 2 + picture(0)[24:]), "at most"),
    ],
)
def test_what_cannot_be_joined_is_told(tmp_path: Path, data: bytes, said: str) -> None:
    source = tmp_path / "pictures.zip"
    source.write_bytes(data)
    with pytest.raises(FormatError, match=said):
        join_film(source, tmp_path / "film.mp4", 12)


def test_it_is_stopped_between_two_pictures(tmp_path: Path) -> None:
    source = tmp_path / "pictures.zip"
    source.write_bytes(packed(*map(picture, range(5))))
    with pytest.raises(Stopped):
        join_film(source, tmp_path / "film.mp4", 12, should_stop=lambda: True)


def test_the_service_joins_what_the_page_drew(client: FlaskClient, graph: dict[str, Any], tmp_path: Path) -> None:
    form = {"pictures": (io.BytesIO(packed(picture(0), picture(1))), "pictures.zip"), "format": "webm", "rate": "24"}
    answer = client.post(f"/api/graphs/{graph['id']}/films", data=form, content_type="multipart/form-data")
    assert answer.status_code == 200, answer.json
    path = tmp_path / "film.webm"
    path.write_bytes(answer.data)
    pictures, rate = read_back(path)
    assert (len(pictures), rate) == (2, pytest.approx(24))


@pytest.mark.parametrize(
    ("change", "said"),
    [({"format": "avi"}, "mp4, webm"), ({"rate": "0"}, "pictures per second"), ({"pictures": None}, "no pictures")],
)
def test_a_film_that_cannot_be_is_refused(client: FlaskClient, graph: Any, change: dict[str, Any], said: str) -> None:
    pictures = (io.BytesIO(packed(picture(0))), "a.zip")
    form: dict[str, Any] = {"pictures": pictures, "format": "mp4", "rate": "24", **change}
    given = {name: value for name, value in form.items() if value is not None}
    answer = client.post(f"/api/graphs/{graph['id']}/films", data=given, content_type="multipart/form-data")
    assert answer.status_code == 422
    assert said in answer.json["message"]
