"""Child processes that end when their parent does, and ports."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import socket
import subprocess
from collections.abc import Mapping
from pathlib import Path
from typing import IO

__all__ = ["free_port", "port_is_free", "spawn", "stop"]


MOST_BYTES = 10 * 1024**2


def _tied_to_parent() -> None:
    pr_set_pdeathsig = 1
    os.setsid()
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(pr_set_pdeathsig, signal.SIGTERM)


def spawn(
    command: list[str], *, log: Path, env: Mapping[str, str] | None = None, told: bool = False
) -> subprocess.Popen[bytes]:
    """Start a process in a session of its own (so that Ctrl-C reaches only us); its output goes to ``log``.

    A log that has grown large is put aside first. One that is ``told`` something reads it from its standard input.
    """
    if log.exists() and log.stat().st_size > MOST_BYTES:
        log.replace(log.with_name(log.name + ".1"))
    output: IO[bytes] = log.open("ab")
    with output:
        return subprocess.Popen(
            command,
            stdin=subprocess.PIPE if told else subprocess.DEVNULL,
            stdout=output,
            stderr=output,
            env=dict(env) if env else None,
            preexec_fn=_tied_to_parent,
        )


def stop(process: subprocess.Popen[bytes], seconds: float = 15.0) -> None:
    """End a process: politely, then not."""
    if process.poll() is None:
        process.terminate()
        try:
            process.wait(seconds)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()


def port_is_free(port: int, host: str = "127.0.0.1") -> bool:
    """Return whether nothing listens on a port."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError:
            return False
    return True


def free_port(first: int, host: str = "127.0.0.1", tries: int = 200) -> int:
    """Return the first free port from ``first`` on; raise OSError if there is none."""
    for port in range(first, first + tries):
        if port_is_free(port, host):
            return port
    raise OSError(f"none of the ports {first} to {first + tries - 1} is free")
