"""``reticula user`` and ``reticula token``: accounts of those who sign in, and tokens of their programs."""

from __future__ import annotations

import argparse
import getpass
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from reticula.bundle import VAR

__all__ = ["add_people_commands"]


def add_people_commands(commands: Any) -> None:
    """Add both commands."""
    user = commands.add_parser("user", help="make, list and remove the accounts of those who sign in")
    acts = user.add_subparsers(required=True, metavar="ACT")
    added = _act(acts, "add", "make an account; the first one is an administrator's", _add)
    added.add_argument("name")
    added.add_argument("--administrator", action="store_true", help="manages every project")
    _act(acts, "password", "set another password", _password).add_argument("name")
    _act(acts, "remove", "remove an account; projects stay", _remove).add_argument("name")
    _act(acts, "list", "list all accounts", _list)
    token = commands.add_parser("token", help="make a token by which a program acts for a person")
    acts = token.add_subparsers(required=True, metavar="ACT")
    made = _act(acts, "add", "make a token; it is printed once", _token)
    made.add_argument("name", help="whose token it is")
    made.add_argument("--title", default="command line", help="what it is for (default: command line)")


def _act(acts: Any, name: str, help: str, function: Callable[[Any, argparse.Namespace], str]) -> Any:
    made = acts.add_parser(name, help=help)
    made.add_argument("--var", type=Path, default=Path(os.environ.get("RETICULA_VAR", VAR)), help="where data are kept")
    made.set_defaults(function=lambda given: _in_database(given, function))
    return made


def _in_database(given: argparse.Namespace, function: Callable[[Any, argparse.Namespace], str]) -> int:
    """Do something in the installation's database and print what came of it, or why it was not done."""
    from reticula.launch.installation import open_database
    from reticula.store.archive import ArchiveError
    from reticula.store.errors import StoreError

    try:
        if not (given.var / "mariadb").is_dir():
            raise ArchiveError(f"there is no installation in {given.var}; start it once, or name another one by --var")
        with open_database(given.var.resolve()) as database:
            database.migrate()
            with database.session() as session:
                print(function(session, given))
    except (ArchiveError, StoreError) as error:
        print(f"reticula: {error}", file=sys.stderr)
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


def _add(session: Any, given: argparse.Namespace) -> str:
    from reticula.store import people

    made = people.add_user(session, given.name, _new_hash(), administrator=given.administrator)
    return f"Made the account '{made.name}'" + (", an administrator's." if made.administrator else ".")


def _password(session: Any, given: argparse.Namespace) -> str:
    from reticula.store import people

    people.set_password(session, given.name, _new_hash())
    return f"'{given.name}' has another password, and has to sign in again."


def _remove(session: Any, given: argparse.Namespace) -> str:
    from reticula.store import people

    people.remove_user(session, given.name)
    return f"Removed the account '{given.name}'."


def _list(session: Any, given: argparse.Namespace) -> str:
    from reticula.store import people

    found = people.users(session)
    if not found:
        return "There are no accounts yet."
    return "\n".join(f"{user.name}{'  administrator' if user.administrator else ''}" for user in found)


def _token(session: Any, given: argparse.Namespace) -> str:
    from reticula.store import people

    return people.add_token(session, given.name, given.title)
