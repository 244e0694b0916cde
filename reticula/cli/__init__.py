"""The command line. Each command is a file of its own, which is loaded when the command is called.

Exit codes: 0 done; 1 could not be done, and the error output says why; 2 the call itself is wrong; 3 done, and the
answer is no (``diff`` found differences, ``info --check`` found defects); 130 interrupted.
"""

from __future__ import annotations

import sys
from importlib import import_module
from typing import Any

import click

from reticula import __version__

__all__ = ["app", "main"]

COMMANDS = {
    "run": "run_command",
    "watch": "watch_command",
    "batch": "batch_command",
    "seek": "seek_command",
    "convert": "file_commands",
    "info": "file_commands",
    "diff": "diff_command",
    "list": "operator_commands",
    "describe": "operator_commands",
    "pack": "package_commands",
    "import": "package_commands",
    "export": "package_commands",
    "serve": "serve_command",
    "start": "serve_command",
    "backup": "backup_commands",
    "restore": "backup_commands",
    "user": "people_commands",
    "token": "people_commands",
    "completion": "completion_command",
}
"""Where each command is; it is called ``NAME_command`` there."""


class Commands(click.Group):
    """Loads the file of a command when the command is needed."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        found: click.Command = getattr(import_module(f"reticula.cli.{COMMANDS[cmd_name]}"), f"{cmd_name}_command")
        return found


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100})
@click.version_option(__version__, message="%(prog)s %(version)s")
def app() -> None:
    """Edit meshes with node graphs.

    Exit codes: 0 done; 1 not done, the error output says why; 2 wrong call; 3 done, and the answer is no; 130
    interrupted.
    """


def main(arguments: list[str] | None = None) -> int:
    """Run the command line and return its exit code; what went wrong and what to do is printed."""
    try:
        code: Any = app.main(args=arguments, prog_name="reticula", standalone_mode=False)
        return code if isinstance(code, int) else 0
    except click.Abort:
        return 130
    except click.ClickException as error:
        error.show(sys.stderr)
        return error.exit_code
    except Exception as error:
        return _failed(error)


def _failed(error: Exception) -> int:
    """Say an error that was foreseen; raise any other."""
    from reticula.cli.console import fail
    from reticula.core.errors import ReticulaError

    if isinstance(error, ModuleNotFoundError) and not (error.name or "").startswith("reticula"):
        fail(f"this needs {error.name}; install it with: pip install 'reticula[server,formats,many]'")
    elif isinstance(error, (ReticulaError, OSError, KeyError)):
        fail(error.args[0] if isinstance(error, KeyError) else error)
    else:
        raise error
    return 1
