"""Published operators and the shapes that come with them."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "operators",
        sa.Column("id", sa.BigInteger, primary_key=True, autoincrement=True),
        sa.Column("name", sa.String(48), nullable=False),
        sa.Column("release_number", sa.String(20), nullable=False),
        sa.Column("definition", LONGTEXT, nullable=False),
        sa.Column("picture", sa.String(64), nullable=False),
        sa.Column("origin", sa.String(200), nullable=False),
        sa.Column("created_at", DATETIME(fsp=6), nullable=False),
        sa.UniqueConstraint("name", "release_number"),
    )
    op.create_index("ix_operators_name", "operators", ["name"])
    op.create_table(
        "operator_shapes",
        sa.Column("name", sa.String(100), primary_key=True),
        sa.Column("file_name", sa.String(200), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
    )
    op.create_index("ix_operator_shapes_digest", "operator_shapes", ["digest"])


def downgrade() -> None:
    op.drop_table("operator_shapes")
    op.drop_table("operators")
