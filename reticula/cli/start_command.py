"""``reticula start``: the whole workshop, from a checkout or an installed wheel."""

from __future__ import annotations

import argparse
import subprocess
import sys
from typing import Any

__all__ = ["add_start"]


def add_start(commands: Any) -> None:
    """Add the command."""
    start = commands.add_parser("start", help="start the workshop and print its address; Ctrl-C stops it")
    start.add_argument("--port", help="first port to try")
    start.add_argument("--var", help="where data are kept")
    start.set_defaults(function=_start)


def _start(given: argparse.Namespace) -> int:
    from reticula.launch.__main__ import main

    print("Getting the compiled kernels ready (a few minutes the first time) …", flush=True)
    subprocess.run([sys.executable, "-m", "reticula.core.precompile"], check=True)
    chosen = {"--port": given.port, "--var": given.var}
    return main([part for name, value in chosen.items() if value for part in (name, value)])
