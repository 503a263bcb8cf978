"""What changed between two states of a match, and how two changes made at once come together.

Belongs here: a match as single fields, changes in words, merging. Must never happen here: where states are kept.
Imitate `fields.py`.
"""

from fern_match.core.history.changes import changes
from fern_match.core.history.fields import fields_of, match_of
from fern_match.core.history.merge import Clash, Clashes, merged

__all__ = ["Clash", "Clashes", "changes", "fields_of", "match_of", "merged"]
