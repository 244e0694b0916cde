"""Keeps database, depot and service running: whatever ends, fails to start or meets a full disk is tried again."""

from __future__ import annotations

import os
import secrets
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from sqlalchemy.exc import SQLAlchemyError

from reticula.launch.client import Client
from reticula.launch.demo import load_demo
from reticula.launch.mariadb import PrivateMariaDB
from reticula.launch.orphans import end_orphans
from reticula.launch.processes import free_port, port_is_free, spawn, stop
from reticula.store.database import Database, NewerData

__all__ = ["Ended", "Supervisor"]

PAUSES = (0.5, 1.0, 2.0, 4.0, 8.0, 15.0, 30.0)
"""Seconds until something is tried again; the last one goes on for ever."""
STEADY = 60.0
"""After so many seconds without trouble the first pause is taken again."""
LEAST_FREE = 64 * 1024**2


class Ended(Exception):
    """Somebody asked us to end."""


class Supervisor:
    """Starts database, depot and service, and starts again whichever of them ends, for ever."""

    def __init__(self, var: Path, first_port: int) -> None:
        self.var = var
        self.first_port = first_port
        self.database = PrivateMariaDB(var / "mariadb")
        self.service: subprocess.Popen[bytes] | None = None
        self.depot: subprocess.Popen[bytes] | None = None
        self.port = 0
        self.depot_port = 0
        self._secret = secrets.token_urlsafe(24)
        self._troubles = 0
        self._last_trouble = 0.0

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def run(self) -> int:
        """Start all and watch over it until :class:`Ended` is raised; return the exit code."""
        try:
            print("Starting the database …", flush=True)
            self._until_done("the database", self._start_database)
            self._choose_ports()
            print("Starting the depot and the service …", flush=True)
            self._until_done("the depot", self._start_depot)
            self._until_done("the service", self._start_service)
            self._until_done("the demo", self._load_demo)
            (self.var / "address").write_text(self.address)
            print(f"\nReticula is ready at {self.address}{self._about_people()}\nPress Ctrl-C to stop.", flush=True)
            while True:
                time.sleep(0.5)
                self._look()
        except Ended:
            print("\nStopping …", flush=True)
        except NewerData as error:
            print(f"Reticula was not started: {error}", file=sys.stderr)
            return 1
        finally:
            signal.signal(signal.SIGINT, signal.SIG_IGN)
            signal.signal(signal.SIGTERM, signal.SIG_IGN)
            (self.var / "address").unlink(missing_ok=True)
            for part in (self.service, self.depot):
                if part is not None:
                    stop(part)
            self.database.stop()
        return 0

    def _until_done(self, what: str, start: Callable[[], None]) -> None:
        """Try until it works, with growing pauses; say in words why it does not."""
        while True:
            try:
                start()
            except NewerData:
                raise
            except (RuntimeError, OSError, SQLAlchemyError) as error:
                self._pause(what, error)
            else:
                return

    def _pause(self, what: str, error: Exception) -> None:
        now = time.monotonic()
        self._troubles = self._troubles + 1 if now - self._last_trouble < STEADY else 1
        self._last_trouble = now
        seconds = PAUSES[min(self._troubles, len(PAUSES)) - 1]
        free = shutil.disk_usage(self.var).free
        why = f"the disk is full ({free // 1024**2} MB free)" if free < LEAST_FREE else _last_line(error)
        print(f"{what.capitalize()} did not start: {why}. Trying again in {seconds:g} s …", flush=True)
        time.sleep(seconds)

    def _look(self) -> None:
        """Start again what ended."""
        assert self.database.process is not None
        assert self.service is not None
        assert self.depot is not None
        if self.database.process.poll() is not None:
            print("The database ended; starting it again …", flush=True)
            self._until_done("the database", self.database.start)
        if self.depot.poll() is not None:
            print("The depot ended; starting it again …", flush=True)
            self._until_done("the depot", self._start_depot)
        if self.service.poll() is not None:
            print("The service ended; starting it again …", flush=True)
            self._until_done("the service", self._start_service)

    def _start_database(self) -> None:
        if self.database.process is None or self.database.process.poll() is not None:
            self.database.start()
        Database(self.database.url).migrate()

    def _choose_ports(self) -> None:
        """Take the ports that are wanted; what a killed predecessor left on them is ended first."""
        end_orphans(self.var)
        self.port = free_port(self.first_port)
        if self.port != self.first_port:
            print(f"Port {self.first_port} is taken by another program; using {self.port}.")
        self.depot_port = free_port(self.port + 1)

    def _start_service(self) -> None:
        if not port_is_free(self.port):
            end_orphans(self.var, keep=[part.pid for part in (self.depot,) if part is not None])
        if not port_is_free(self.port):
            raise RuntimeError(f"port {self.port} is taken by another program")
        env = {
            **os.environ,
            "RETICULA_DATABASE": self.database.url,
            "RETICULA_VAR": str(self.var),
            "RETICULA_PORT": str(self.port),
            "RETICULA_DEPOT": f"http://127.0.0.1:{self.depot_port}",
            "RETICULA_LAUNCH_SECRET": self._secret,
            "RETICULA_DEPOT_TOKEN": self._depot_token(),
        }
        log = self.var / "service.out"
        self.service = spawn([sys.executable, "-m", "reticula.service"], log=log, env=env)
        client = Client(self.address)
        for _ in range(300):
            if self.service.poll() is not None:
                break
            try:
                client.get("/api/health")
                return
            except OSError:
                time.sleep(0.2)
        stop(self.service)
        raise RuntimeError(f"the service did not start:\n{_end_of(log)}")

    def _start_depot(self) -> None:
        command = [sys.executable, "-m", "reticula.depot", str(self.var / "depot"), str(self.depot_port)]
        env = {**os.environ, "RETICULA_DEPOT_TOKEN": self._depot_token()}
        self.depot = spawn(command, log=self.var / "depot.log", env=env)

    def _depot_token(self) -> str:
        """The secret by which the service puts packages into the depot; made at the first start."""
        path = self.var / "keys" / "depot.token"
        if not path.exists():
            path.parent.mkdir(mode=0o700, exist_ok=True)
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(32))
        return path.read_text()

    def _about_people(self) -> str:
        """Say that people sign in, if they do, and what is missing for it."""
        told = Client(self.address).get("/api/session")
        if not told["sign_in"]:
            return ""
        more = "" if told["accounts"] else "; make the first account with 'reticula user add NAME'"
        return f"\nPeople sign in here{more}. How to serve it by TLS is in docs/deploying.md."

    def _load_demo(self) -> None:
        if load_demo(Client(self.address, self._secret), self._depot_client(), self.var / "keys" / "demo.pem"):
            print("Loaded the demo project.")

    def _depot_client(self) -> Client | None:
        """The depot, once it answers; None if it does not: the service does without it."""
        client = Client(f"http://127.0.0.1:{self.depot_port}", self._depot_token())
        for _ in range(100):
            try:
                client.get("/packages")
                return client
            except OSError:
                time.sleep(0.1)
        print("The depot does not answer; its log is in depot.log.", file=sys.stderr)
        return None


def _last_line(error: Exception) -> str:
    lines = [line.strip() for line in str(error).splitlines() if line.strip()]
    return (lines[-1] if lines else type(error).__name__).rstrip(".")[:300]


def _end_of(log: Path) -> str:
    try:
        return log.read_text(errors="replace")[-2000:]
    except OSError as error:
        return f"its log cannot be read: {error}"
