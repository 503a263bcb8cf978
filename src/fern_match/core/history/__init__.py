"""What changed between two states of a match, and how two changes made at once come together.

Belongs here: differences, their words, merging; for any record, by its declaration. Must never happen here: a rule about one
kind of record, or where states are kept. Imitate `differences.py`.
"""

from fern_match.core.history.differences import Difference, differences
from fern_match.core.history.merge import Clash, Clashes, clash_of, merged
from fern_match.core.history.words import changes

__all__ = ["Clash", "Clashes", "Difference", "changes", "clash_of", "differences", "merged"]
