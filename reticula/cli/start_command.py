"""``reticula start``: the whole workshop, from a checkout or an installed wheel."""

from __future__ import annotations

import argparse
import importlib.util
from pathlib import Path
from typing import Any

from reticula import __version__
from reticula.bundle import VAR

__all__ = ["add_start"]


def add_start(commands: Any) -> None:
    """Add the command."""
    start = commands.add_parser("start", help="start the workshop and print its address; Ctrl-C stops it")
    start.add_argument("--port", help="first port to try")
    start.add_argument("--var", help="where data are kept")
    start.set_defaults(function=_start)


def _start(given: argparse.Namespace) -> int:
    from reticula.core.precompile import precompile
    from reticula.launch.__main__ import main

    if importlib.util.find_spec("flask") is None:
        raise ModuleNotFoundError("flask", name="flask")
    ready = Path(given.var or VAR) / f"kernels-{__version__}"
    if not ready.exists():
        print("Building the compiled kernels (a few minutes, once) …", flush=True)
        precompile()
        ready.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        ready.touch()
    chosen = {"--port": given.port, "--var": given.var}
    return main([part for name, value in chosen.items() if value for part in (name, value)])
