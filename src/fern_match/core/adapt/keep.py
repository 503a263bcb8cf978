"""A proposal kept as a version that knows its parent.

Worked example: "Faithful" under vegan, by oat: "Vegan, oat", child of the faithful version, held to what it gives.
"""

from collections.abc import Collection, Sequence
from dataclasses import replace

from fern_match.core.adapt.asking import AT_MOST, WITHOUT
from fern_match.core.adapt.propose import Proposal
from fern_match.core.adapt.rules import Rule, resolved
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, Origin, OriginKind, Version, targets_of, written_version
from fern_match.core.record import fresh_id

_MOST_SIGNS = 120


def kept(
    proposal: Proposal,
    parent: Version,
    before: Formula,
    rules: Sequence[Rule],
    forbidden: Sequence[str],
    pantry: Pantry,
    taken: Collection[str],
) -> Version:
    """A new version with a proposal's amounts.

    Args:
        proposal: Worked out from the parent.
        parent: The version that was adapted.
        before: The parent as read.
        rules: That the proposal holds to.
        forbidden: Ingredients that it goes without, by id.
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
        origin=Origin(
            kind=OriginKind.ADAPTED,
            rules=(*(one for rule in rules for one in as_kept(rule, before, pantry)), *(f"{WITHOUT}{key}" for key in forbidden)),
        ),
        targets=targets_of(proposal.formula, pantry),
    )


def as_kept(rule: Rule, before: Formula, pantry: Pantry) -> tuple[str, ...]:
    """A rule in the words that are kept: a share of the parent as what that is in grams, since the child has another whole.

    Args:
        rule: As asked for.
        before: The parent as read.
        pantry: Compositions.
    """
    return tuple(
        one.asked if one.whole is None else f"{AT_MOST}{one.measure}:{one.limit:.9g}" for one in resolved(rule, before, pantry)
    )
