"""The application behind its asynchronous front, served as it is in the product."""

from __future__ import annotations

import socket
import threading
from collections.abc import Iterator
from typing import Any

import pytest
import uvicorn

from reticula.service.__main__ import server_config
from reticula.service.serving.front import Front


@pytest.fixture(scope="session")
def address(app: Any) -> Iterator[str]:
    """Serve on a free port of this machine; return ``127.0.0.1:PORT``."""
    listening = socket.create_server(("127.0.0.1", 0))
    config = server_config(Front(app), app.extensions["reticula"].config)
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    yield f"127.0.0.1:{listening.getsockname()[1]}"
    server.should_exit = True
    thread.join(20)
