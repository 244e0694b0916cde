"""Times to the microsecond, so that things made in one second keep their order."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0002"
down_revision = "0001"

COLUMNS = (
    ("projects", "created_at"),
    ("graphs", "created_at"),
    ("graphs", "updated_at"),
    ("edits", "created_at"),
    ("assets", "created_at"),
)


def upgrade() -> None:
    for table, column in COLUMNS:
        op.alter_column(table, column, existing_type=sa.DateTime(), type_=DATETIME(fsp=6), existing_nullable=False)


def downgrade() -> None:
    for table, column in COLUMNS:
        op.alter_column(table, column, existing_type=DATETIME(fsp=6), type_=sa.DateTime(), existing_nullable=False)
