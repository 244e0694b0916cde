"""The tables of proof sheets."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Integer, String, UniqueConstraint
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT
from sqlalchemy.orm import Mapped, mapped_column

from reticula.store.models import Base, new_id, now

__all__ = ["SheetRow", "VariantRow"]


class SheetRow(Base):
    """A proof sheet: what it shows, as JSON text, and of which graph as it was then.

    ``state`` is running, stopped, done or failed (``trouble`` says why). ``ended`` counts the variants that have ended,
    each time one does. ``best`` are the numbers of the best variants of one that seeks, as JSON text.
    """

    __tablename__ = "sheets"

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"), index=True)
    graph_id: Mapped[str | None] = mapped_column(ForeignKey("graphs.id", ondelete="SET NULL"))
    title: Mapped[str] = mapped_column(String(200))
    plan: Mapped[str] = mapped_column(LONGTEXT)
    document: Mapped[str] = mapped_column(LONGTEXT)
    state: Mapped[str] = mapped_column(String(8), default="running")
    trouble: Mapped[str] = mapped_column(String(500), default="")
    ended: Mapped[int] = mapped_column(Integer, default=0)
    best: Mapped[str] = mapped_column(LONGTEXT, default="[]")
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class VariantRow(Base):
    """One variant of a sheet. ``key`` names its result: equal keys mean equal results, whichever sheet they are of.

    ``state`` is open, done or failed; ``ended`` is its place in the order in which variants ended, 0 for an open one.
    ``given`` are its values and ``outcome`` what became of it, as JSON text; ``content`` is the file of its picture,
    ``file`` that of its result, if one is kept.
    """

    __tablename__ = "variants"
    __table_args__ = (UniqueConstraint("sheet_id", "key"),)

    sheet_id: Mapped[str] = mapped_column(ForeignKey("sheets.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=False)
    key: Mapped[str] = mapped_column(String(32), index=True)
    state: Mapped[str] = mapped_column(String(8), default="open")
    ended: Mapped[int] = mapped_column(Integer, default=0)
    given: Mapped[str] = mapped_column(LONGTEXT)
    outcome: Mapped[str] = mapped_column(LONGTEXT, default="{}")
    content: Mapped[str] = mapped_column(String(64), default="", index=True)
    file: Mapped[str] = mapped_column(String(64), default="", index=True)
