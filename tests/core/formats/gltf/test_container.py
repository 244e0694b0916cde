"""The file around a glTF document."""

import json

import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.gltf.container import open_document, pack_glb, pack_text

TOLD = {"asset": {"version": "2.0"}, "buffers": [{"byteLength": 5}]}


def test_a_glb_holds_document_and_bytes_in_whole_words() -> None:
    data = pack_glb(TOLD, b"hello")
    assert len(data) % 4 == 0
    document = open_document(data, {})
    assert document.json == TOLD
    assert document.buffers[0][:5] == b"hello"


def test_a_text_holds_its_bytes_itself() -> None:
    data = pack_text(TOLD, b"hello")
    assert json.loads(data)["buffers"][0]["uri"].startswith("data:application/octet-stream;base64,")
    assert open_document(data, {}).buffers == (b"hello",)


@pytest.mark.parametrize(
    ("cut", "message"),
    [(8, "head of 20 bytes"), (40, "promises"), (-4, "promises")],
)
def test_a_glb_that_is_cut_short_is_refused(cut: int, message: str) -> None:
    with pytest.raises(FormatError, match=message):
        open_document(pack_glb(TOLD, b"hello")[:cut], {})


def test_entries_that_do_not_exist_are_named() -> None:
    document = open_document(pack_glb(TOLD, b"hello"), {})
    for wrong in (1, -1, True, "0", None):
        with pytest.raises(FormatError, match="'buffers' has no entry"):
            document.entry("buffers", wrong)
    assert document.listed("nodes") == []
