"""A restore: what a backup holds, beside what is here."""

from collections.abc import Callable, Sequence
from typing import Any

from fern_match.core.house import House
from fern_match.core.match import Match
from fern_match.core.record.parts import parts_of
from fern_match.store.changes import Keeper
from fern_match.store.contents import Packed
from fern_match.store.trees import NewTree, create, everything, house


def restore(keeper: Keeper[House], found: House, matches: Sequence[Match], line: Callable[[Match], Any]) -> tuple[int, int]:
    """Adds every match that is not here in just this state, and takes the backup's house where none was set up here.

    Gives how many were added and how many were here. All is packed before anything is written; all matches are kept, or none.

    Args:
        line: What the list shows of a match.
    """
    database = keeper.database
    with database.reading() as session:
        _, here = everything(session)
        own = house(session)
    known = {_hashes(match) for match in here}
    fresh = [NewTree.of(match, line(match)) for match in reversed(matches) if _hashes(match) not in known]
    with database.writing() as session:
        for new in fresh:
            create(session, new)
    if own.whole == House():
        keeper.save(own.revision, lambda _: found)
    return len(fresh), len(matches) - len(fresh)


def _hashes(match: Match) -> tuple[str, ...]:
    return tuple(Packed(part).hash for part in parts_of(match).values())
