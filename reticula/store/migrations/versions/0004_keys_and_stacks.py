"""Keys of edits, so that none is applied twice, and what undo and redo act on next, so that it need not be searched."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.add_column("edits", sa.Column("idempotency_key", sa.String(64)))
    op.add_column("edits", sa.Column("undo_below", sa.Integer))
    op.add_column("edits", sa.Column("redo_below", sa.Integer))
    op.create_unique_constraint("uq_edits_graph_id_key", "edits", ["graph_id", "idempotency_key"])
    op.add_column("graphs", sa.Column("undo_revision", sa.Integer))
    op.add_column("graphs", sa.Column("redo_revision", sa.Integer))
    connection = op.get_bind()
    for (graph_id,) in connection.execute(sa.text("SELECT id FROM graphs")).fetchall():
        _link(connection, graph_id)


def _link(connection: sa.Connection, graph_id: str) -> None:
    """Write down what undo and redo act on, as the log of a graph tells."""
    log = sa.text("SELECT kind, revision, target FROM edits WHERE graph_id = :graph ORDER BY revision")
    done: list[int] = []
    undone: list[int] = []
    for kind, number, target in connection.execute(log, {"graph": graph_id}):
        if kind == "edit":
            done.append(number)
            undone.clear()
        elif kind == "undo":
            done.remove(target)
            undone.append(target)
        else:
            undone.remove(target)
            done.append(target)
    for column, stack in (("undo_below", done), ("redo_below", undone)):
        set_below = sa.text(f"UPDATE edits SET {column} = :below WHERE graph_id = :graph AND revision = :revision")
        for below, above in zip(stack, stack[1:], strict=False):
            connection.execute(set_below, {"below": below, "graph": graph_id, "revision": above})
    heads = {"undo": done[-1] if done else None, "redo": undone[-1] if undone else None, "graph": graph_id}
    connection.execute(
        sa.text("UPDATE graphs SET undo_revision = :undo, redo_revision = :redo WHERE id = :graph"), heads
    )


def downgrade() -> None:
    op.drop_column("graphs", "redo_revision")
    op.drop_column("graphs", "undo_revision")
    op.drop_constraint("uq_edits_graph_id_key", "edits", type_="unique")
    for column in ("redo_below", "undo_below", "idempotency_key"):
        op.drop_column("edits", column)
