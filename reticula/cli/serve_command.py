"""``reticula serve``: the whole workshop, from a checkout or an installed wheel."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import click

from reticula.cli.console import warn
from reticula.cli.options import VAR_FOLDER
from reticula.core.deprecation import Deprecation

__all__ = ["serve_command", "start_command"]

PORT = click.option("--port", type=click.IntRange(1, 65535), help="First port to try.")


def _serve(port: int | None, var: Path) -> int:
    from reticula.launch.__main__ import main

    print("Getting the compiled kernels ready (a few minutes the first time) …", flush=True)
    subprocess.run([sys.executable, "-m", "reticula.core.precompile"], check=True)
    return main(["--var", str(var), *(["--port", str(port)] if port else [])])


@click.command("serve")
@PORT
@VAR_FOLDER
def serve_command(port: int | None, var: Path) -> int:
    """Start the workshop and print its address; Ctrl-C stops it.

    It brings its own database (MariaDB, on loopback), its page and the demo.
    """
    return _serve(port, var)


GOING = Deprecation("'reticula start'", "'reticula serve'", "0.4")


@click.command("start", hidden=True)
@PORT
@VAR_FOLDER
def start_command(port: int | None, var: Path) -> int:
    """Start the workshop; its name is 'serve' now."""
    warn(GOING.text)
    return _serve(port, var)
