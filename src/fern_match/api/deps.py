"""What routes ask for: the database, the pantry, the runner of estimates."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from pydantic import Field
from sqlalchemy.orm import Session

from fern_match.api.runner import EstimateRunner
from fern_match.core.food import Pantry, standard_pantry
from fern_match.store import Database


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.database.transaction() as session:
        yield session


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


def _runner(request: Request) -> EstimateRunner:
    runner: EstimateRunner = request.app.state.runner
    return runner


DatabaseDep = Annotated[Database, Depends(_database)]
# "function": the transaction is kept before the answer leaves, so that what was acknowledged cannot be lost.
SessionDep = Annotated[Session, Depends(_session, scope="function")]
PantryDep = Annotated[Pantry, Depends(standard_pantry)]
RunnerDep = Annotated[EstimateRunner, Depends(_runner)]

Revision = Annotated[int, Field(ge=0, le=1_000_000_000)]  # of a match; more than any match will ever have
