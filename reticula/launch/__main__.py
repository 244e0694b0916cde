"""Starts everything and keeps it running: ``python -m reticula.launch``. Ctrl-C stops all that was started."""

from __future__ import annotations

import argparse
import fcntl
import os
import signal
import sys
from pathlib import Path
from types import FrameType

from reticula.bundle import VAR
from reticula.launch.mariadb import install_hint
from reticula.launch.supervisor import Ended, Supervisor


def main(arguments: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="python -m reticula.launch", description="Start Reticula.")
    parser.add_argument(
        "--port", type=int, default=int(os.environ.get("RETICULA_PORT", "8765")), help="first port to try"
    )
    parser.add_argument(
        "--var", type=Path, default=Path(os.environ.get("RETICULA_VAR", str(VAR))), help="where data are kept"
    )
    given = parser.parse_args(arguments)
    hint = install_hint()
    if hint:
        print(f"MariaDB is missing. Install it with:\n    sudo sh -c '{hint}'", file=sys.stderr)
        return 1
    given.var.mkdir(parents=True, exist_ok=True)
    given.var.chmod(0o700)
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


if __name__ == "__main__":
    sys.exit(main())
