"""The texts that records hold, each with its limit."""

from typing import Annotated

from fern_match.core.record.declare import Id, Signs

LONGEST_NAME = 120
Name = Annotated[str, Signs(LONGEST_NAME)]
Cell = Annotated[str, Signs(200)]  # what one field of a table takes
Key = Annotated[str, Id()]  # of an entry, a layer, a version, an ingredient, a family
ItemKey = Annotated[str, Signs(1000)]  # names of the statement from the top down
EvidenceKey = Annotated[str, Signs(2100)]
Statement = Annotated[str, Signs(20_000)]
