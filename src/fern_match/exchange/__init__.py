"""Open formats in and out: the match file (JSON with a published schema).

Belongs here: shapes of files. Must never happen here: a query, a route, a computation.
Imitate `match_file.py`.
"""

from fern_match.exchange.match_file import MatchFile, StudyFile, read_match_file, written_match_file

__all__ = ["MatchFile", "StudyFile", "read_match_file", "written_match_file"]
