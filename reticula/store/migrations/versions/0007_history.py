"""Who made an edit, and names of moments of a graph."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.add_column("edits", sa.Column("author", sa.String(64), nullable=False, server_default=""))
    op.create_table(
        "moments",
        sa.Column("graph_id", sa.String(16), sa.ForeignKey("graphs.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("revision", sa.Integer, primary_key=True, autoincrement=False),
        sa.Column("name", sa.String(80), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("moments")
    op.drop_column("edits", "author")
