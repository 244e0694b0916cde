"""Proof sheets: variants of a graph, with what became of each."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "sheets",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("project_id", sa.String(16), sa.ForeignKey("projects.id", ondelete="CASCADE"), nullable=False),
        sa.Column("graph_id", sa.String(16), sa.ForeignKey("graphs.id", ondelete="SET NULL"), nullable=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("plan", LONGTEXT, nullable=False),
        sa.Column("document", LONGTEXT, nullable=False),
        sa.Column("state", sa.String(8), nullable=False),
        sa.Column("trouble", sa.String(500), nullable=False),
        sa.Column("ended", sa.Integer, nullable=False),
        sa.Column("created_at", DATETIME(fsp=6), nullable=False),
        sa.Index("ix_sheets_project_id", "project_id"),
    )
    op.create_table(
        "variants",
        sa.Column("sheet_id", sa.String(16), sa.ForeignKey("sheets.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=False),
        sa.Column("key", sa.String(32), nullable=False),
        sa.Column("state", sa.String(8), nullable=False),
        sa.Column("ended", sa.Integer, nullable=False),
        sa.Column("given", LONGTEXT, nullable=False),
        sa.Column("outcome", LONGTEXT, nullable=False),
        sa.Column("content", sa.String(64), nullable=False),
        sa.UniqueConstraint("sheet_id", "key"),
        sa.Index("ix_variants_key", "key"),
        sa.Index("ix_variants_content", "content"),
    )


def downgrade() -> None:
    op.drop_table("variants")
    op.drop_table("sheets")
