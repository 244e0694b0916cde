"""Options that several commands take."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import click

from reticula.bundle import VAR

__all__ = ["ERROR", "FRAME", "JSON", "NODE", "PACKAGES", "SET", "TOKEN", "VAR_FOLDER", "pairs", "shapes_option"]

Command = TypeVar("Command", bound=Callable[..., Any])


def pairs(context: click.Context, option: click.Parameter, values: tuple[str, ...]) -> dict[str, str]:
    """Return NAME=VALUE given many times as a dict; ends with code 2 for what is no such pair."""
    made = {}
    for text in values:
        name, equals, value = text.partition("=")
        if not equals or not name:
            raise click.UsageError(f"{option.opts[0]} takes NAME=VALUE, not '{text}'", context)
        made[name] = value
    return made


def shapes_option(help: str) -> Callable[[Command], Command]:
    """Return the option ``--in NAME=FILE``, which may be given many times."""
    return click.option("--in", "shapes", multiple=True, metavar="NAME=FILE", callback=pairs, help=help)


SET = click.option(
    "--set", "values", multiple=True, metavar="NAME=VALUE", callback=pairs, help="A dial, or NODE.PARAMETER."
)
NODE = click.option("--node", help="Whose result is meant (default: the graph's result); with a package, which output.")
FRAME = click.option("--frame", type=float, help="The frame to evaluate at (default: the graph's first one).")
PACKAGES = click.option(
    "--package",
    "packages",
    multiple=True,
    metavar="FILE",
    type=click.Path(dir_okay=False),
    help="Published operators that the graph uses.",
)
ERROR = click.option(
    "--error",
    type=click.FloatRange(min=0),
    default=0.0,
    metavar="M",
    help="How far lines may be from the bows of a drawing, in m (default: a thousandth of its size).",
)
JSON = click.option("--json", "as_json", is_flag=True, help="As JSON, for programs.")
TOKEN = click.option(
    "--token",
    default=lambda: os.environ.get("RETICULA_TOKEN", ""),
    show_default="RETICULA_TOKEN in the environment",
    help="API token, where people sign in.",
)
VAR_FOLDER = click.option(
    "--var",
    type=click.Path(file_okay=False, path_type=Path),
    default=lambda: Path(os.environ.get("RETICULA_VAR", VAR)),
    show_default="RETICULA_VAR in the environment, else var",
    help="Where data are kept.",
)
