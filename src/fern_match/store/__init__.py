"""SQLite through SQLAlchemy: tables, migrations, queries.

Belongs here: how matches are kept. Must never happen here: a rule of the job, or a row that leaves this folder.
Imitate `matches.py`.
"""

from fern_match.store.database import Database
from fern_match.store.history import FieldsClash, Moment, NothingThere, Reach
from fern_match.store.matches import MatchSummary, Stale, StoredMatch

__all__ = ["Database", "FieldsClash", "MatchSummary", "Moment", "NothingThere", "Reach", "Stale", "StoredMatch"]
