"""A database in a file, and a keeper of one match in it."""

from collections.abc import Callable
from pathlib import Path

import pytest

from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.match import Match
from fern_match.store import Database, Keeper
from fern_match.store.trees import NewTree, create

Keep = Callable[[Match], Keeper[Match]]


def keeper(database: Database, tree_id: str) -> Keeper[Match]:
    """Keeps the changes of one match."""
    return Keeper(
        database=database,
        tree_id=tree_id,
        whole=Match,
        pantry=standard_pantry(),
        families=standard_families(),
        line=lambda match: {"name": match.study.name},
    )


@pytest.fixture
def database(tmp_path: Path) -> Database:
    """An empty database in a file."""
    return Database(tmp_path / "kept.db")


@pytest.fixture
def kept(database: Database) -> Keep:
    """Keeps a new match, and gives its keeper."""

    def keep(match: Match) -> Keeper[Match]:
        with database.writing() as session:
            return keeper(database, create(session, NewTree.of(match, {"name": match.study.name})))

    return keep
