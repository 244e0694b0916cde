"""What is looked at in every request before anything else: the size, depth, numbers and letters of its JSON."""

from __future__ import annotations

import json
import re
from typing import NoReturn

import numpy as np
from flask import Flask, Response, request

from reticula.core.graph.structure.extent import MOST_BYTES, MOST_DEEP
from reticula.service.errors import refuse

__all__ = ["depth_of", "install_limits", "trouble_in"]

JSON_BYTES = MOST_BYTES + 8 * 1024**2
"""A document, and some room around it."""
ENVELOPE = 8
"""Levels of a request around the data that it carries."""
LONG_NUMBER = re.compile(rb"\d{300}")
STRINGS = re.compile(rb'"(?:[^"\\]|\\.)*"?', re.DOTALL)


def install_limits(app: Flask) -> None:
    """Refuse requests whose JSON could not be worked on."""

    @app.before_request
    def look() -> Response | None:
        if not request.is_json or not request.content_length:
            return None
        if request.content_length > JSON_BYTES:
            return refuse(413, "too large", f"The request is larger than {JSON_BYTES // 1024**2} MB.")
        trouble = trouble_in(request.get_data(cache=True))
        return refuse(422, "request", trouble) if trouble else None


def trouble_in(body: bytes) -> str:
    """Return what is wrong with JSON text, or an empty text."""
    plain = STRINGS.sub(b"", body)
    if _depth(plain) > MOST_DEEP + ENVELOPE:
        return f"The request is nested in more than {MOST_DEEP} levels; make it flatter."
    if LONG_NUMBER.search(plain):
        return "A whole number in the request has hundreds of digits; no number here is that large."
    try:
        text = body.decode("utf-8")
        data = json.loads(text, parse_constant=_no_number) if "NaN" in text or "Infinity" in text else None
        if b"\\ud" in body or b"\\uD" in body:
            json.dumps(json.loads(text) if data is None else data, ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError:
        return "The request holds half of a letter (a lone surrogate), which no text can hold."
    except UnicodeDecodeError as error:
        return f"The request is no UTF-8 text: byte {error.start}."
    except ArithmeticError as error:
        return f"JSON has no number {error}; numbers are finite."
    except (ValueError, RecursionError):
        return "The request is no JSON."
    return ""


def depth_of(body: bytes) -> int:
    """Return how many levels of lists and objects JSON text has, without reading it."""
    return _depth(STRINGS.sub(b"", body))


def _depth(plain: bytes) -> int:
    letters = np.frombuffer(plain, np.uint8)
    opens = np.isin(letters, np.frombuffer(b"[{", np.uint8)).astype(np.int64)
    closes = np.isin(letters, np.frombuffer(b"]}", np.uint8))
    return int(np.cumsum(opens - closes).max(initial=0))


def _no_number(word: str) -> NoReturn:
    raise ArithmeticError(word)
