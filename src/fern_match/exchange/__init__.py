"""Open formats in and out: the match file (JSON with a published schema).

Belongs here: shapes of files. Must never happen here: a query, a route, a computation.
Imitate `match_file.py`.
"""

from fern_match.exchange.match_file import MatchFile, read_match_file, written_match_file
from fern_match.exchange.study_file import StudyFile

__all__ = ["MatchFile", "StudyFile", "read_match_file", "written_match_file"]
