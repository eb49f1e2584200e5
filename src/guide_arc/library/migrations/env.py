"""Alembic runs the steps over the connection that the library hands it."""

from alembic import context

from guide_arc.library.tables import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, transactional_ddl=True)
with context.begin_transaction():
    context.run_migrations()
