"""Texts of any program made plain, line by line."""

import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.shared.plain_text import plain_text


@pytest.mark.parametrize("text", [b"v 1\nf 2\n", b"v 1\r\nf 2\r\n", b"v 1\rf 2\r", b"\xef\xbb\xbfv 1\nf 2\n"])
def test_breaks_and_marks(text: bytes) -> None:
    assert plain_text(text) == b"v 1\nf 2\n"


def test_comments_go_and_lines_keep_their_numbers() -> None:
    assert plain_text(b"# head\nv 1 # one\n#\nf", comment=b"#") == b"\nv 1 \n\nf"
    assert plain_text(b"v 1 # one") == b"v 1 # one"


def test_other_encodings_are_said() -> None:
    with pytest.raises(FormatError, match="UTF-16; save it as UTF-8"):
        plain_text("v 1".encode("utf-16"))
