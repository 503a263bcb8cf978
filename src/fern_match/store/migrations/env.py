"""Runs migrations on the connection that `database.migrate` hands over."""

from alembic import context

from fern_match.store.tables import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
context.run_migrations()
