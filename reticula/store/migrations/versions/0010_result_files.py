"""Proof sheets that keep the results themselves, beside their pictures."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.add_column("variants", sa.Column("file", sa.String(64), nullable=False, server_default=""))
    op.create_index("ix_variants_file", "variants", ["file"])


def downgrade() -> None:
    op.drop_index("ix_variants_file", "variants")
    op.drop_column("variants", "file")
