"""Alembic's entry: runs migrations on the engine that Database.migrate hands over."""

from alembic import context

from reticula.store.models import Base

engine = context.config.attributes["engine"]
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
