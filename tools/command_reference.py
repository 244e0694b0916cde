"""The reference of the command line, made from its declarations."""

from __future__ import annotations

import inspect

import click

from reticula.cli import app

__all__ = ["command_reference"]


def command_reference() -> str:
    """Return a section for each command in Markdown: what it does, its arguments and options."""
    context = click.Context(app, info_name="reticula")
    return "\n".join(_sections(app, context))


def _sections(group: click.Group, context: click.Context) -> list[str]:
    lines: list[str] = []
    for name in group.list_commands(context):
        command = group.get_command(context, name)
        assert command is not None
        if command.hidden:
            continue
        inside = click.Context(command, info_name=name, parent=context)
        if isinstance(command, click.Group):
            lines += _sections(command, inside)
            continue
        usage = " ".join(command.collect_usage_pieces(inside))
        lines += [f"### {inside.command_path.removeprefix('reticula ')}", ""]
        lines += [f"`{inside.command_path} {usage}`", "", *_paragraphs(command.help or ""), ""]
        records = [option.get_help_record(inside) for option in command.params]
        rows = [found for found in records if found and found[1]]
        if rows:
            lines += ["| option | |", "|---|---|", *(f"| `{flags}` | {help} |" for flags, help in rows), ""]
    return lines


def _paragraphs(text: str) -> list[str]:
    return inspect.cleandoc(text).splitlines()
