"""Keeps database, depot and service running: whatever ends, fails to start or meets a full disk is tried again.

What takes long is begun at once: the service loads its code while the database starts, and so do we what that needs.
"""

from __future__ import annotations

import contextlib
import json
import os
import secrets
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from reticula.launch.chores import Chore
from reticula.launch.client import Client
from reticula.launch.demo import load_demo
from reticula.launch.mariadb import PrivateMariaDB
from reticula.launch.orphans import end_orphans
from reticula.launch.processes import free_port, port_is_free, spawn, stop

__all__ = ["Ended", "Supervisor"]

LOOK_EVERY = 0.25
LEAST_FREE = 64 * 1024**2
DEPOT_SECONDS = 10.0
"""So long the demo waits for a depot to put packages into."""


class Ended(Exception):
    """Somebody asked us to end."""


class Refused(Exception):
    """What we find must not be worked with; it is not tried again."""


class Supervisor:
    """Starts database, depot and service, and starts again whichever of them ends, for ever."""

    def __init__(self, var: Path, first_port: int) -> None:
        self.var = var
        self.first_port = first_port
        self.database = PrivateMariaDB(var / "mariadb")
        self.service: subprocess.Popen[bytes] | None = None
        self.depot: subprocess.Popen[bytes] | None = None
        self._coming: subprocess.Popen[bytes] | None = None
        self.port = 0
        self.depot_port = 0
        self._secret = secrets.token_urlsafe(24)
        self._migrated = False
        self._demo_loaded = False
        self._depot_asked = 0.0
        self._announced = False

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def run(self) -> int:
        """Start all and watch over it until :class:`Ended` is raised; return the exit code."""
        chores = self._chores()
        try:
            with contextlib.suppress(OSError):  # it is begun again when it is needed
                self._coming = self._begin_service()
            print("Starting the database and the depot …", flush=True)
            while True:
                for chore in chores:
                    chore.see_to_it()
                time.sleep(LOOK_EVERY)
        except Ended:
            print("\nStopping …", flush=True)
        except Refused as error:
            print(f"Reticula was not started: {error}", file=sys.stderr)
            return 1
        finally:
            signal.signal(signal.SIGINT, signal.SIG_IGN)
            signal.signal(signal.SIGTERM, signal.SIG_IGN)
            (self.var / "address").unlink(missing_ok=True)
            for part in (self.service, self._coming, self.depot):
                if part is not None:
                    stop(part)
            self.database.stop()
        return 0

    def _chores(self) -> list[Chore]:
        """What is to be seen to, for ever. What needs something else waits for that, and nothing waits for it."""

        def runs(process: subprocess.Popen[bytes] | None) -> bool:
            return process is not None and process.poll() is None

        def lacks_database() -> bool:
            return not (runs(self.database.process) and self._migrated)

        def lacks_depot() -> bool:
            return not runs(self.depot)

        def lacks_service() -> bool:
            return not runs(self.service)

        def after_ports(start: Callable[[], None]) -> Callable[[], None]:
            return lambda: start() if self.port else None

        def after_database(start: Callable[[], None]) -> Callable[[], None]:
            return lambda: start() if self.port and self._migrated else None

        return [
            Chore("looking for ports", lambda: not self.port, self._choose_ports, self._tell),
            Chore("the depot", lacks_depot, after_ports(self._start_depot), self._tell, _again),
            Chore("the database", lacks_database, self._start_database, self._tell, _again),
            Chore("the service", lacks_service, after_database(self._start_service), self._tell, _again),
            Chore("the demo", lambda: not self._demo_loaded, after_database(self._load_demo), self._tell),
            Chore("the address", lambda: not self._announced, self._announce, self._tell),
        ]

    def _announce(self) -> None:
        if self._demo_loaded:
            people = self._about_people()
            (self.var / "address").write_text(self.address)
            print(f"\nReticula is ready at {self.address}{people}\nPress Ctrl-C to stop.", flush=True)
            self._announced = True

    def _tell(self, what: str, error: Exception, seconds: float) -> None:
        free = shutil.disk_usage(self.var).free
        why = f"the disk is full ({free // 1024**2} MB free)" if free < LEAST_FREE else _last_line(error)
        print(f"{what.capitalize()} did not start: {why}. Trying again in {seconds:g} s …", flush=True)

    def _start_database(self) -> None:
        if self.database.process is None or self.database.process.poll() is not None:
            self.database.start()
        if not self._migrated:
            self._migrate()
            self._migrated = True
            print("Starting the service …", flush=True)

    def _migrate(self) -> None:
        from sqlalchemy.exc import SQLAlchemyError  # loaded while the service loads its own

        from reticula.store.database import Database, NewerData

        try:
            Database(self.database.url).migrate()
        except NewerData as error:
            raise Refused(str(error)) from error
        except SQLAlchemyError as error:
            raise RuntimeError(str(error)) from error

    def _choose_ports(self) -> None:
        """Take the ports that are wanted; what a killed predecessor left on them is ended first."""
        end_orphans(self.var, keep=self._ours())
        port = free_port(self.first_port)
        if port != self.first_port:
            print(f"Port {self.first_port} is taken by another program; using {port}.")
        self.depot_port = free_port(port + 1)
        self.port = port

    def _ours(self) -> list[int]:
        return [part.pid for part in (self.depot, self._coming) if part is not None]

    def _start_service(self) -> None:
        if not port_is_free(self.port):
            end_orphans(self.var, keep=self._ours())
        if not port_is_free(self.port):
            raise RuntimeError(f"port {self.port} is taken by another program")
        settings = {
            "RETICULA_DATABASE": self.database.url,
            "RETICULA_PORT": str(self.port),
            "RETICULA_DEPOT": f"http://127.0.0.1:{self.depot_port}",
            "RETICULA_LAUNCH_SECRET": self._secret,
            "RETICULA_DEPOT_TOKEN": self._depot_token(),
        }
        coming, self._coming = self._coming, None
        self.service = coming if coming is not None and coming.poll() is None else self._begin_service()
        assert self.service.stdin is not None
        with self.service.stdin as told:
            told.write(json.dumps(settings).encode() + b"\n")
        client = Client(self.address)
        for _ in range(600):
            if self.service.poll() is not None:
                break
            try:
                client.get("/api/health")
                return
            except OSError:
                time.sleep(0.1)
        stop(self.service)
        raise RuntimeError(f"the service did not start:\n{_end_of(self.var / 'service.out')}")

    def _begin_service(self) -> subprocess.Popen[bytes]:
        """Start a service that loads its code, and then waits for its settings."""
        env = {**os.environ, "RETICULA_VAR": str(self.var)}
        return spawn(
            [sys.executable, "-m", "reticula.service", "--told"], log=self.var / "service.out", env=env, told=True
        )

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
        client = Client(self.address, self._secret)
        if not client.get("/api/projects")["projects"] and load_demo(
            client, self._depot_client(), self.var / "keys" / "demo.pem"
        ):
            print("Loaded the demo project.")
        self._demo_loaded = True

    def _depot_client(self) -> Client | None:
        """The depot, if it answers; None if it has not for a while: the demo does without it.

        Raises RuntimeError until then: nothing waits here, so that a depot that ended is started again.
        """
        client = Client(f"http://127.0.0.1:{self.depot_port}", self._depot_token())
        self._depot_asked = self._depot_asked or time.monotonic()
        try:
            client.get("/packages")
        except OSError:
            if time.monotonic() - self._depot_asked < DEPOT_SECONDS:
                raise RuntimeError("the depot does not answer yet") from None
            print("The depot does not answer; its log is in depot.log.", file=sys.stderr)
            return None
        return client


def _again(what: str) -> None:
    print(f"{what.capitalize()} ended; starting it again …", flush=True)


def _last_line(error: Exception) -> str:
    lines = [line.strip() for line in str(error).splitlines() if line.strip()]
    return (lines[-1] if lines else type(error).__name__).rstrip(".")[:300]


def _end_of(log: Path) -> str:
    try:
        return log.read_text(errors="replace")[-2000:]
    except OSError as error:
        return f"its log cannot be read: {error}"
