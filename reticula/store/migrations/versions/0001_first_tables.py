"""Projects, graphs, edits, assets and settings."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import LONGTEXT

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "projects",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "graphs",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("project_id", sa.String(16), sa.ForeignKey("projects.id", ondelete="CASCADE"), nullable=False),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("document", LONGTEXT, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("updated_at", sa.DateTime, nullable=False),
    )
    op.create_index("ix_graphs_project_id", "graphs", ["project_id"])
    op.create_table(
        "edits",
        sa.Column("id", sa.BigInteger, primary_key=True, autoincrement=True),
        sa.Column("graph_id", sa.String(16), sa.ForeignKey("graphs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("kind", sa.String(8), nullable=False),
        sa.Column("target", sa.Integer, nullable=True),
        sa.Column("label", sa.String(200), nullable=False),
        sa.Column("patch", LONGTEXT, nullable=False),
        sa.Column("inverse", LONGTEXT, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("graph_id", "revision"),
    )
    op.create_index("ix_edits_graph_id", "edits", ["graph_id"])
    op.create_table(
        "assets",
        sa.Column("id", sa.String(16), primary_key=True),
        sa.Column("project_id", sa.String(16), sa.ForeignKey("projects.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("file_name", sa.String(200), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("size", sa.BigInteger, nullable=False),
        sa.Column("summary", sa.JSON, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("project_id", "name"),
    )
    op.create_index("ix_assets_project_id", "assets", ["project_id"])
    op.create_index("ix_assets_digest", "assets", ["digest"])
    op.create_table(
        "settings",
        sa.Column("name", sa.String(64), primary_key=True),
        sa.Column("value", sa.JSON, nullable=False),
    )


def downgrade() -> None:
    for table in ("settings", "assets", "edits", "graphs", "projects"):
        op.drop_table(table)
