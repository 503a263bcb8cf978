"""Open formats in and out: the match file, the backup, and the JSON that records are kept as.

Belongs here: records as JSON and back, files of older versions brought up to date. Must never happen here: a rule of the job,
or a second declaration of a record. Imitate `content.py`.
"""

from fern_match.exchange.match_file import BadFile, Brought, read_brought, read_match_file, written_match_file

__all__ = ["BadFile", "Brought", "read_brought", "read_match_file", "written_match_file"]
