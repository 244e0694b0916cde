"""``reticula user`` and ``reticula token``: accounts of those who sign in, and tokens of their programs."""

from __future__ import annotations

import getpass
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import fail
from reticula.cli.options import JSON, VAR_FOLDER

__all__ = ["token_command", "user_command"]

NAME = click.argument("name")


@click.group("user")
def user_command() -> None:
    """Make, list and remove the accounts of those who sign in."""


@click.group("token")
def token_command() -> None:
    """Make a token by which a program acts for a person."""


@user_command.command("add")
@NAME
@click.option("--administrator", is_flag=True, help="Manages every project.")
@VAR_FOLDER
def _add(name: str, administrator: bool, var: Path) -> int:
    """Make an account; the first one is an administrator's."""
    from reticula.store import people

    def add(session: Any) -> str:
        made = people.add_user(session, name, _new_hash(), administrator=administrator)
        return f"Made the account '{made.name}'" + (", an administrator's." if made.administrator else ".")

    return _in_database(var, add)


@user_command.command("password")
@NAME
@VAR_FOLDER
def _password(name: str, var: Path) -> int:
    """Set another password."""
    from reticula.store import people

    def change(session: Any) -> str:
        people.set_password(session, name, _new_hash())
        return f"'{name}' has another password, and has to sign in again."

    return _in_database(var, change)


@user_command.command("remove")
@NAME
@VAR_FOLDER
def _remove(name: str, var: Path) -> int:
    """Remove an account; projects stay."""
    from reticula.store import people

    def remove(session: Any) -> str:
        people.remove_user(session, name)
        return f"Removed the account '{name}'."

    return _in_database(var, remove)


@user_command.command("list")
@VAR_FOLDER
@JSON
def _list(var: Path, as_json: bool) -> int:
    """List all accounts."""
    from reticula.store import people

    def told(session: Any) -> str:
        found = people.users(session)
        if as_json:
            return json.dumps([{"name": user.name, "administrator": bool(user.administrator)} for user in found])
        lines = [f"{user.name}{'  administrator' if user.administrator else ''}" for user in found]
        return "\n".join(lines) or "There are no accounts yet."

    return _in_database(var, told)


@token_command.command("add")
@click.argument("name")
@click.option("--title", default="command line", show_default=True, help="What it is for.")
@VAR_FOLDER
def _token(name: str, title: str, var: Path) -> int:
    """Make a token; it is printed once."""
    from reticula.store import people

    return _in_database(var, lambda session: people.add_token(session, name, title))


def _in_database(var: Path, work: Callable[[Any], str]) -> int:
    """Do something in the installation's database and print what came of it, or why it was not done."""
    from reticula.launch.installation import open_database
    from reticula.store.archive import ArchiveError
    from reticula.store.errors import StoreError

    try:
        if not (var / "mariadb").is_dir():
            raise ArchiveError(f"there is no installation in {var}; start it once, or name another one by --var")
        with open_database(var.resolve()) as database:
            database.migrate()
            with database.session() as session:
                print(work(session))
    except (ArchiveError, StoreError) as error:
        fail(error)
        return 1
    return 0


def _new_hash() -> str:
    """Ask for a password, twice at a terminal, and return its hash."""
    from reticula.service.people.passwords import hashed
    from reticula.store.errors import StoreError

    if not sys.stdin.isatty():
        return hashed(sys.stdin.readline().rstrip("\n"))
    password = getpass.getpass("Password: ")
    if getpass.getpass("Once more: ") != password:
        raise StoreError("These are two different passwords.")
    return hashed(password)
