"""``reticula completion``: what a shell needs to complete commands, options, operators and files."""

from __future__ import annotations

import click
from click.shell_completion import get_completion_class

__all__ = ["completion_command"]


@click.command("completion")
@click.argument("shell", type=click.Choice(["bash", "zsh", "fish"]))
@click.pass_context
def completion_command(context: click.Context, shell: str) -> None:
    """Print the completion script of a shell.

    For bash, once: reticula completion bash >> ~/.bashrc
    """
    found = get_completion_class(shell)
    assert found is not None
    print(found(context.find_root().command, {}, "reticula", "_RETICULA_COMPLETE").source())
