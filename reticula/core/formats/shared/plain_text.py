"""Text files as any program writes them, made plain: one kind of line break, no byte-order mark, no comments."""

from __future__ import annotations

import re

from reticula.core.errors import FormatError

__all__ = ["plain_text"]

MARKS = {b"\xff\xfe": "UTF-16", b"\xfe\xff": "UTF-16"}


def plain_text(data: bytes, comment: bytes = b"") -> bytes:
    """Return a text with line feeds alone as line breaks (CR and CR LF become LF), without a byte-order mark of UTF-8
    and without what follows ``comment`` in a line; lines keep their numbers. Raise FormatError for UTF-16.
    """
    for mark, name in MARKS.items():
        if data.startswith(mark):
            raise FormatError(f"the file is written in {name}; save it as UTF-8 or plain text", line=1)
    text = data.removeprefix(b"\xef\xbb\xbf")
    if b"\r" in text:
        text = text.replace(b"\r\n", b"\n").replace(b"\r", b"\n")
    if comment and comment in text:
        text = re.sub(re.escape(comment) + rb"[^\n]*", b"", text)
    return text
