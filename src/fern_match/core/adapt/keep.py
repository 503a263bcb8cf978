"""A proposal kept as a version that knows its parent.

Worked example: "Faithful" under vegan, by oat: "Vegan, oat", child of the faithful version, held to what it gives.
"""

from collections.abc import Collection, Sequence
from dataclasses import replace

from fern_match.core.adapt.propose import Proposal
from fern_match.core.adapt.rules import Rule
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, Origin, OriginKind, Version, fresh_id, targets_of, written_version

_MOST_SIGNS = 120


def kept(
    proposal: Proposal, parent: Version, before: Formula, rules: Sequence[Rule], pantry: Pantry, taken: Collection[str]
) -> Version:
    """A new version with a proposal's amounts.

    Args:
        proposal: Worked out from the parent.
        parent: The version that was adapted.
        before: The parent as read.
        rules: That the proposal holds to.
        pantry: For what the version is held to.
        taken: Ids of the versions there are.
    """
    system = proposal.system and f", {proposal.name[0].lower()}{proposal.name[1:]}"
    name = f"{' and '.join(rule.name for rule in rules)}{system}"
    name = f"{name[0]}{name[1:].lower()}"[:_MOST_SIGNS]
    written = written_version(parent, before, proposal.formula)
    return replace(
        written,
        id=fresh_id(name, set(taken)),
        name=name,
        parent=parent.id,
        origin=Origin(kind=OriginKind.ADAPTED),
        targets=targets_of(proposal.formula, pantry),
    )
