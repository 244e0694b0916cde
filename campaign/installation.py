"""An installation of its own, started as users start it; its processes can be found and killed."""

from __future__ import annotations

import contextlib
import http.client
import os
import signal
import subprocess
import sys
import time
import urllib.error
from collections.abc import Callable
from pathlib import Path
from typing import Any

from reticula.launch.client import Client
from reticula.workers.seat import resident_bytes

__all__ = ["PARTS", "Installation", "patiently"]

PARTS = ("service", "database", "depot", "evaluator", "launcher")
WORDS = {"service": "reticula.service", "database": "mariadbd", "depot": "reticula.depot"}
READY_SECONDS = 300.0


class Installation:
    """``python -m reticula.launch`` in a folder; a launcher that was killed is started again, as a system does."""

    def __init__(self, var: Path, port: int) -> None:
        self.var, self.port = var, port
        self.client = Client(f"http://127.0.0.1:{port}")
        self.launcher: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start the launcher and wait until all parts answer, and the demo is there."""
        self._launch()
        while not (self.var / "address").exists():
            time.sleep(0.05)

    def _launch(self) -> None:
        self.var.mkdir(parents=True, exist_ok=True)
        with (self.var / "launcher.out").open("ab") as out:
            command = [sys.executable, "-m", "reticula.launch", "--var", str(self.var), "--port", str(self.port)]
            env = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
            self.launcher = subprocess.Popen(command, stdout=out, stderr=out, env=env)
        self.wait_until_well()

    def stop(self) -> None:
        if self.launcher is not None and self.launcher.poll() is None:
            self.launcher.send_signal(signal.SIGINT)
            self.launcher.wait(60)

    def health(self) -> dict[str, Any]:
        """Return what the service says of itself; nothing if it does not answer."""
        try:
            found: dict[str, Any] = self.client.get("/api/health")
        except (OSError, ValueError, http.client.HTTPException):
            return {}
        return found

    def wait_until_well(self, seconds: float = READY_SECONDS) -> float:
        """Wait until health is ok, and return for how long; start the launcher if it is gone."""
        began = time.monotonic()
        while self.health().get("status") != "ok":
            if self.launcher is not None and self.launcher.poll() is not None:
                self._launch()
                break
            if time.monotonic() - began > seconds:
                raise RuntimeError(f"not well after {seconds:g} s: {self.health()}; see {self.var}")
            time.sleep(0.05)
        return time.monotonic() - began

    def processes(self, part: str) -> list[int]:
        """Return the process ids of a part."""
        if part == "launcher":
            return [self.launcher.pid] if self.launcher is not None else []
        if part == "evaluator":
            return [pid for service in self.processes("service") for pid in _children(service)]
        return [pid for pid, command in _commands() if WORDS[part] in command and self._is_ours(pid, command)]

    def kill(self, part: str, choose: Callable[[list[int]], int]) -> int | None:
        """Kill one process of a part by SIGKILL; None if there is none at the moment."""
        found = self.processes(part)
        if not found:
            return None
        chosen = choose(found)
        with contextlib.suppress(ProcessLookupError):
            os.kill(chosen, signal.SIGKILL)
        if part == "launcher" and self.launcher is not None:
            self.launcher.wait(30)
        return chosen

    def memory(self) -> dict[str, int]:
        """Return how many bytes each part holds, its largest process."""
        return {part: max(map(resident_bytes, self.processes(part)), default=0) for part in PARTS}

    def _is_ours(self, pid: int, command: str) -> bool:
        with contextlib.suppress(OSError):
            settings = Path(f"/proc/{pid}/environ").read_bytes().decode(errors="replace")
            return str(self.var) in command or f"RETICULA_VAR={self.var}\0" in settings
        return False


def patiently(ask: Callable[[], Any], until: float) -> tuple[Any, float]:
    """Ask again while the service is away or has too much to do; return the answer, and how long it took in all."""
    began = time.monotonic()
    while True:
        try:
            return ask(), time.monotonic() - began
        except urllib.error.HTTPError as error:
            if error.code < 500 and error.code != 429:
                raise
        except (OSError, http.client.HTTPException):
            pass
        if time.monotonic() > until:
            raise TimeoutError("no answer until the end")
        time.sleep(0.1)


def _commands() -> list[tuple[int, str]]:
    found = []
    for entry in Path("/proc").iterdir():
        with contextlib.suppress(OSError):
            if entry.name.isdigit():
                found.append((int(entry.name), (entry / "cmdline").read_bytes().decode(errors="replace")))
    return found


def _children(parent: int) -> list[int]:
    """The evaluators among the children of a service: not the helper that watches over shared resources."""
    found = []
    for pid, command in _commands():
        with contextlib.suppress(OSError, IndexError, ValueError):
            status = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
            if int(status[1]) == parent and "spawn_main" in command:
                found.append(pid)
    return found
