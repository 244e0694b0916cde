"""The tables of people: who may come in, and what they may do in which project."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import Boolean, ForeignKey, String, UniqueConstraint
from sqlalchemy.dialects.mysql import DATETIME
from sqlalchemy.orm import Mapped, mapped_column

from reticula.store.models import Base, new_id, now

__all__ = ["ApiToken", "Membership", "ShareLink", "SignIn", "User"]


class User(Base):
    """A person with a password, kept as an Argon2 hash. An administrator manages every project."""

    __tablename__ = "users"

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    name: Mapped[str] = mapped_column(String(64), unique=True)
    password_hash: Mapped[str] = mapped_column(String(200))
    administrator: Mapped[bool] = mapped_column(Boolean, default=False)
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class Membership(Base):
    """What a person may do in a project: look, edit or manage."""

    __tablename__ = "memberships"

    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True)
    user_id: Mapped[str] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), primary_key=True)
    role: Mapped[str] = mapped_column(String(8))


class ShareLink(Base):
    """A link by which anybody may look at one project, kept as the SHA-256 of its secret."""

    __tablename__ = "share_links"

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"), index=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class SignIn(Base):
    """A browser that came in, by a password or by a share link, until it signs out or has been away for long."""

    __tablename__ = "sign_ins"

    secret_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    user_id: Mapped[str | None] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"))
    share_link_id: Mapped[str | None] = mapped_column(ForeignKey("share_links.id", ondelete="CASCADE"))
    csrf_token: Mapped[str] = mapped_column(String(64))
    seen_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)


class ApiToken(Base):
    """A secret by which a program acts for a person, kept as its SHA-256."""

    __tablename__ = "api_tokens"
    __table_args__ = (UniqueConstraint("user_id", "title"),)

    id: Mapped[str] = mapped_column(String(16), primary_key=True, default=new_id)
    user_id: Mapped[str] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    title: Mapped[str] = mapped_column(String(100))
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    created_at: Mapped[datetime] = mapped_column(DATETIME(fsp=6), default=now)
    used_at: Mapped[datetime | None] = mapped_column(DATETIME(fsp=6))
