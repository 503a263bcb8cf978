"""SQLite through SQLAlchemy: what is kept, how it changed, and how it is found.

A tree is a match or the house. It is kept in parts: each part's content once, under its hash; a change is a row with what was and
what is. Belongs here: keeping and finding. Must never happen here: a rule of the job, or a row that leaves this folder.
Imitate `trees.py`.
"""

from fern_match.store.changes import Clash, Keeper, NothingThere, Stale
from fern_match.store.database import CannotKeep, Database
from fern_match.store.moments import UndoState
from fern_match.store.trees import HOUSE, Kept

__all__ = ["HOUSE", "CannotKeep", "Clash", "Database", "Keeper", "Kept", "NothingThere", "Stale", "UndoState"]
