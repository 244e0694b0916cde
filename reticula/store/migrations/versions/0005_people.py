"""People, what they may do in which project, share links, sign-ins and tokens."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0005"
down_revision = "0004"


def _of(table: str, column: str, *, nullable: bool = False, primary_key: bool = False) -> sa.Column[str]:
    key = sa.ForeignKey(f"{table}.id", ondelete="CASCADE")
    return sa.Column(column, sa.String(16), key, nullable=nullable, primary_key=primary_key)


def upgrade() -> None:
    moment = DATETIME(fsp=6)
    op.create_table(
        "users",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("name", sa.String(64), nullable=False, unique=True),
        sa.Column("password_hash", sa.String(200), nullable=False),
        sa.Column("administrator", sa.Boolean, nullable=False),
        sa.Column("created_at", moment, nullable=False),
    )
    op.create_table(
        "memberships",
        _of("projects", "project_id", primary_key=True),
        _of("users", "user_id", primary_key=True),
        sa.Column("role", sa.String(8), nullable=False),
    )
    op.create_table(
        "share_links",
        sa.Column("id", sa.String(16), primary_key=True),
        _of("projects", "project_id"),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("created_at", moment, nullable=False),
    )
    op.create_table(
        "sign_ins",
        sa.Column("secret_hash", sa.String(64), primary_key=True),
        _of("users", "user_id", nullable=True),
        _of("share_links", "share_link_id", nullable=True),
        sa.Column("csrf_token", sa.String(64), nullable=False),
        sa.Column("seen_at", moment, nullable=False),
    )
    op.create_table(
        "api_tokens",
        sa.Column("id", sa.String(16), primary_key=True),
        _of("users", "user_id"),
        sa.Column("title", sa.String(100), nullable=False),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("created_at", moment, nullable=False),
        sa.Column("used_at", moment),
        sa.UniqueConstraint("user_id", "title"),
    )
