"""Everything out, and everything back in beside what is there."""

from sqlalchemy.orm import Session

from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.store import matches
from fern_match.store.kitchen import load_kitchen, save_kitchen


def everything(session: Session) -> tuple[list[Match], Kitchen]:
    """All matches and the kitchen.

    Args:
        session: In a transaction.
    """
    listed = matches.summaries(session)
    return [matches.load(session, one.id).match for one in listed], load_kitchen(session)


def restore(session: Session, found: list[Match], kitchen: Kitchen) -> tuple[int, int]:
    """Adds every match that is not here in just this state, and takes its kitchen where none was set up here.

    Gives how many were added and how many were here.

    Args:
        session: In a transaction.
        found: Matches of a backup.
        kitchen: Its kitchen.
    """
    here, own_kitchen = everything(session)
    added = 0
    for match in reversed(found):
        if match not in here:
            matches.create(session, match)
            added += 1
    if own_kitchen == Kitchen():
        save_kitchen(session, kitchen)
    return added, len(found) - added
