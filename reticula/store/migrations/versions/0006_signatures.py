"""Who signed the package that an operator came with."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.add_column("operators", sa.Column("signer", sa.String(16), nullable=False, server_default=""))
    op.add_column("operators", sa.Column("publisher", sa.String(80), nullable=False, server_default=""))
