"""Requests whose transaction the database took back because of another one are done again: nothing of them was kept."""

from __future__ import annotations

import logging
import random
import time

from flask import request
from flask.typing import ResponseReturnValue
from flask_openapi3 import OpenAPI
from sqlalchemy.exc import OperationalError

from reticula.store.database import is_deadlock

__all__ = ["RepeatingApp"]

CHANCES = 8
PAUSE = 0.05
"""Seconds before the second try, at most; each further one may wait as long again."""
log = logging.getLogger(__name__)


class RepeatingApp(OpenAPI):
    """An application that answers a request again after a deadlock.

    Uploads are left out: their content can be read once only. They end with a transaction that is repeated by itself.
    """

    def dispatch_request(self) -> ResponseReturnValue:
        for chance in range(1, CHANCES + 1):
            try:
                return super().dispatch_request()
            except OperationalError as error:
                if chance == CHANCES or not is_deadlock(error) or request.mimetype == "multipart/form-data":
                    raise
                log.info("a deadlock: %s %s is done again", request.method, request.path)
                time.sleep(random.uniform(0, PAUSE * chance))
        raise AssertionError
