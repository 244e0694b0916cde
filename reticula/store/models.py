"""The tables."""

from __future__ import annotations

import secrets
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import JSON, BigInteger, ForeignKey, Integer, String, UniqueConstraint
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

__all__ = ["Asset", "Base", "Edit", "Graph", "Moment", "Operator", "OperatorShape", "Project", "Setting"]


def new_id() -> str:
    return secrets.token_hex(8)


def now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


class Base(DeclarativeBase):
    """Base of all tables."""


class Project(Base):
    """A piece of work: graphs and the shapes they use."""

    __tablename__ = "projects"

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    title: Mapped[str] = mapped_column(String(200))
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class Graph(Base):
    """A graph document at its newest revision, as JSON text, with the revisions that undo and redo act on next."""

    __tablename__ = "graphs"

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"), index=True)
    title: Mapped[str] = mapped_column(String(200))
    revision: Mapped[int] = mapped_column(Integer, default=0)
    document: Mapped[str] = mapped_column(LONGTEXT)
    undo_revision: Mapped[int | None] = mapped_column(Integer)
    redo_revision: Mapped[int | None] = mapped_column(Integer)
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)
    updated_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now, onupdate=now)


class Edit(Base):
    """One edit of a graph: the JSON Patch that led to ``revision``, and the one that leads back.

    ``kind`` is edit, undo or redo; for the last two ``target`` is the revision of the edit that was undone or redone.
    ``author`` is the account that made it, nothing where nobody signs in.
    ``undo_below`` is the revision that undo would take back after this one, ``redo_below`` the one that redo would do.
    """

    __tablename__ = "edits"
    __table_args__ = (UniqueConstraint("graph_id", "revision"), UniqueConstraint("graph_id", "idempotency_key"))

    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    graph_id: Mapped[str] = mapped_column(ForeignKey("graphs.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int] = mapped_column(Integer)
    kind: Mapped[str] = mapped_column(String(8))
    target: Mapped[int | None] = mapped_column(Integer)
    label: Mapped[str] = mapped_column(String(200), default="")
    idempotency_key: Mapped[str | None] = mapped_column(String(64))
    undo_below: Mapped[int | None] = mapped_column(Integer)
    redo_below: Mapped[int | None] = mapped_column(Integer)
    patch: Mapped[str] = mapped_column(LONGTEXT)
    inverse: Mapped[str] = mapped_column(LONGTEXT)
    author: Mapped[str] = mapped_column(String(64), default="")
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class Moment(Base):
    """A name that somebody gave to a graph as it was at a revision."""

    __tablename__ = "moments"

    graph_id: Mapped[str] = mapped_column(ForeignKey("graphs.id", ondelete="CASCADE"), primary_key=True)
    revision: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=False)
    name: Mapped[str] = mapped_column(String(80))


class Asset(Base):
    """An uploaded mesh: its name in the project, and the digest under which its content is kept."""

    __tablename__ = "assets"
    __table_args__ = (UniqueConstraint("project_id", "name"),)

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(100))
    file_name: Mapped[str] = mapped_column(String(200))
    digest: Mapped[str] = mapped_column(String(64), index=True)
    size: Mapped[int] = mapped_column(BigInteger)
    summary: Mapped[dict[str, Any]] = mapped_column(JSON)
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class Operator(Base):
    """One release of a published operator: its definition as JSON text, which never changes.

    ``signer`` is the fingerprint of the key that signed the package that it came with, ``publisher`` whose it is; both
    are empty for what was published here, or came unsigned.
    """

    __tablename__ = "operators"
    __table_args__ = (UniqueConstraint("name", "release_number"),)

    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    name: Mapped[str] = mapped_column(String(48), index=True)
    release_number: Mapped[str] = mapped_column(String(20))
    definition: Mapped[str] = mapped_column(LONGTEXT)
    picture: Mapped[str] = mapped_column(String(64), default="")
    origin: Mapped[str] = mapped_column(String(200), default="")
    signer: Mapped[str] = mapped_column(String(16), default="")
    publisher: Mapped[str] = mapped_column(String(80), default="")
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class OperatorShape(Base):
    """A mesh that came with a published operator, under a name that says its content."""

    __tablename__ = "operator_shapes"

    name: Mapped[str] = mapped_column(String(100), primary_key=True)
    file_name: Mapped[str] = mapped_column(String(200))
    digest: Mapped[str] = mapped_column(String(64), index=True)


class Setting(Base):
    """One setting of the whole workshop, e.g. the theme."""

    __tablename__ = "settings"

    name: Mapped[str] = mapped_column(String(64), primary_key=True)
    value: Mapped[Any] = mapped_column(JSON)
