"""Proof sheets that seek: which of their variants are best."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import LONGTEXT

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("sheets", sa.Column("best", LONGTEXT, nullable=True))
    op.execute("UPDATE sheets SET best = '[]'")
    op.alter_column("sheets", "best", existing_type=LONGTEXT, nullable=False)


def downgrade() -> None:
    op.drop_column("sheets", "best")
