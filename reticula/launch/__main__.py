"""Starts everything and keeps it running: ``python -m reticula.launch``. Ctrl-C stops all that was started."""

from __future__ import annotations

import argparse
import fcntl
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from types import FrameType

from reticula.launch.client import Client
from reticula.launch.demo import load_demo
from reticula.launch.mariadb import PrivateMariaDB, install_hint
from reticula.launch.processes import free_port, spawn, stop
from reticula.store.database import Database

ROOT = Path(__file__).resolve().parents[2]
RESTARTS = 20


class Ended(Exception):
    """Somebody asked us to end."""


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m reticula.launch", description="Start Reticula.")
    parser.add_argument(
        "--port", type=int, default=int(os.environ.get("RETICULA_PORT", "8765")), help="first port to try"
    )
    parser.add_argument(
        "--var", type=Path, default=Path(os.environ.get("RETICULA_VAR", str(ROOT / "var"))), help="where data are kept"
    )
    given = parser.parse_args()
    hint = install_hint()
    if hint:
        print(f"MariaDB is missing. Install it with:\n    sudo sh -c '{hint}'", file=sys.stderr)
        return 1
    given.var.mkdir(parents=True, exist_ok=True)
    with (given.var / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            address = given.var / "address"
            where = address.read_text() if address.exists() else "an address that it has not told yet"
            print(f"Reticula runs already, at {where}")
            return 1
        signal.signal(signal.SIGTERM, _end)
        signal.signal(signal.SIGINT, _end)
        return Supervisor(given.var, given.port).run()


def _end(number: int, frame: FrameType | None) -> None:
    raise Ended


class Supervisor:
    """Starts database, depot and service, and starts again whichever of them ends."""

    def __init__(self, var: Path, first_port: int) -> None:
        self.var = var
        self.first_port = first_port
        self.database = PrivateMariaDB(var / "mariadb")
        self.service: subprocess.Popen[bytes] | None = None
        self.depot: subprocess.Popen[bytes] | None = None
        self.port = 0
        self.depot_port = 0

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def run(self) -> int:
        try:
            print("Starting the database …", flush=True)
            self.database.start()
            Database(self.database.url).migrate()
            self.port = free_port(self.first_port)
            if self.port != self.first_port:
                print(f"Port {self.first_port} is taken; using {self.port}.")
            self.depot_port = free_port(self.port + 1)
            print("Starting the depot and the service …", flush=True)
            self._start_depot()
            self._start_service()
            if load_demo(Client(self.address), self._depot_client()):
                print("Loaded the demo project.")
            (self.var / "address").write_text(self.address)
            print(f"\nReticula is ready at {self.address}\nPress Ctrl-C to stop.", flush=True)
            self._watch()
        except Ended:
            print("\nStopping …", flush=True)
        except (RuntimeError, OSError) as error:
            print(f"Reticula could not be started: {error}", file=sys.stderr)
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

    def _start_service(self) -> None:
        env = {
            **os.environ,
            "RETICULA_DATABASE": self.database.url,
            "RETICULA_VAR": str(self.var),
            "RETICULA_PORT": str(self.port),
            "RETICULA_DEPOT": f"http://127.0.0.1:{self.depot_port}",
        }
        log = self.var / "service.log"
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
        raise RuntimeError(f"the service did not start:\n{log.read_text(errors='replace')[-2000:]}")

    def _start_depot(self) -> None:
        command = [sys.executable, "-m", "reticula.depot", str(self.var / "depot"), str(self.depot_port)]
        self.depot = spawn(command, log=self.var / "depot.log")

    def _depot_client(self) -> Client | None:
        """The depot, once it answers; None if it does not: the service does without it."""
        client = Client(f"http://127.0.0.1:{self.depot_port}")
        for _ in range(100):
            try:
                client.get("/packages")
                return client
            except OSError:
                time.sleep(0.1)
        print("The depot does not answer; its log is in depot.log.", file=sys.stderr)
        return None

    def _watch(self) -> None:
        recent: list[float] = []
        while True:
            time.sleep(0.5)
            assert self.database.process is not None
            assert self.service is not None
            assert self.depot is not None
            broken = (
                self.depot.poll() is not None
                or self.database.process.poll() is not None
                or self.service.poll() is not None
            )
            if not broken:
                continue
            recent = [moment for moment in recent if time.monotonic() - moment < 300.0] + [time.monotonic()]
            if len(recent) > RESTARTS:
                raise RuntimeError(f"a part ends again and again; its log is in {self.var}")
            if self.database.process.poll() is not None:
                print("The database ended; starting it again …", flush=True)
                self.database.start()
            if self.depot.poll() is not None:
                print("The depot ended; starting it again …", flush=True)
                self._start_depot()
            if self.service.poll() is not None:
                print("The service ended; starting it again …", flush=True)
                self._start_service()


if __name__ == "__main__":
    sys.exit(main())
