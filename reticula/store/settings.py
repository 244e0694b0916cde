"""Settings of the whole workshop."""

from __future__ import annotations

from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.store.models import Setting

__all__ = ["read", "write"]


def read(session: Session) -> dict[str, Any]:
    """Return all settings that were ever set."""
    return {row.name: row.value for row in session.scalars(select(Setting))}


def write(session: Session, values: dict[str, Any]) -> dict[str, Any]:
    """Set some settings and return all."""
    for name, value in values.items():
        session.merge(Setting(name=name, value=value))
    session.flush()
    return read(session)
