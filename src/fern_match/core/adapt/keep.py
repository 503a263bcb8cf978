"""A proposal kept as a version that knows its parent.

Worked example: "Faithful" under vegan, by oat: "Vegan, oat", child of the faithful version, held to what it gives.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from fern_match.core.adapt.asking import AT_MOST, WITHOUT
from fern_match.core.adapt.consequences import changes_for_the_eater, process_notes, warnings
from fern_match.core.adapt.propose import Proposal
from fern_match.core.adapt.renaming import outlived_names
from fern_match.core.adapt.rules import Rule, resolved
from fern_match.core.food import Pantry
from fern_match.core.formulate import (
    Formula,
    NoteKind,
    Origin,
    OriginKind,
    Version,
    VersionIngredient,
    VersionLayer,
    VersionNote,
    serving_g,
    targets_of,
    written_version,
)
from fern_match.core.record import fresh_id
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.reading import StudyReading

_LONGEST_NOTE, _MOST_NOTES = 1000, 200
_NUMBERS = 6  # signs that a number behind a name takes


def kept(
    proposal: Proposal,
    parent: Version,
    before: Formula,
    rules: Sequence[Rule],
    forbidden: Sequence[str],
    reading: StudyReading,
    taken: Collection[str],
    names: Mapping[str, str] | None = None,
) -> Version:
    """A new version with a proposal's amounts, and with what adapting taught: notes, names that are true, the rules it holds to.

    Args:
        proposal: Worked out from the parent.
        parent: The version that was adapted.
        before: The parent as read.
        rules: That the proposal holds to.
        forbidden: Ingredients that it goes without, by id.
        reading: The study, with compositions and families.
        taken: Ids of the versions there are.
        names: Of layers, by id, as the user wants them; those named after what is gone get a name that is true otherwise.
    """
    system = proposal.system and f", {proposal.name[0].lower()}{proposal.name[1:]}"
    name = f"{' and '.join(rule.name for rule in rules)}{system}"
    name = _not_taken(f"{name[0]}{name[1:].lower()}"[: LONGEST_NAME - _NUMBERS], taken)
    written = written_version(parent, before, proposal.formula)
    called = outlived_names(before, proposal.formula, rules, reading) | {
        key: typed.strip()[:LONGEST_NAME] for key, typed in (names or {}).items() if typed.strip()
    }
    asked = [one for rule in rules for one in as_kept(rule, before, reading.pantry)]
    return replace(
        written,
        id=fresh_id(name, set(taken)),
        name=name,
        parent=parent.id,
        layers=tuple(
            replace(layer, name=called.get(layer.id, layer.name), ingredients=_heaviest_first(layer, proposal))
            for layer in written.layers
        ),
        origin=Origin(kind=OriginKind.ADAPTED, rules=(*asked, *(f"{WITHOUT}{key}" for key in forbidden))),
        targets=targets_of(proposal.formula, reading.pantry),
        notes=_notes(proposal, parent, before, rules, reading),
    )


def _not_taken(name: str, taken: Collection[str]) -> str:
    """A name that no version goes by yet: “Vegan, straight swap 2”."""
    names = (name if number == 1 else f"{name} {number}" for number in range(1, len(taken) + 2))
    return next((one for one in names if fresh_id(one, ()) not in taken), name)


def _heaviest_first(layer: VersionLayer, proposal: Proposal) -> tuple[VersionIngredient, ...]:
    """Lines as a recipe has them: what there is most of comes first."""
    amounts = {
        line.ingredient_id: line.grams
        for other in proposal.formula.layers
        if other.layer_id == layer.id
        for line in other.ingredients
    }
    return tuple(sorted(layer.ingredients, key=lambda line: -amounts.get(line.ingredient, 0.0)))


def _notes(
    proposal: Proposal, parent: Version, before: Formula, rules: Sequence[Rule], reading: StudyReading
) -> tuple[VersionNote, ...]:
    """What cook, eater and whoever gets a piece are told; not where a boil ends: that follows from the amounts."""
    serving = serving_g(reading, before)
    told = [
        *((NoteKind.COOK, text) for text in process_notes(proposal, before, reading.families, reading.pantry, ends=False)),
        *((NoteKind.EATER, text) for text in changes_for_the_eater(proposal, before, reading.pantry)),
        *((NoteKind.MIND, text) for text in warnings(proposal, before, rules, reading, serving)),
    ]
    known = {(one.kind, one.text) for one in parent.notes}
    fresh = [one for one in dict.fromkeys(told) if one not in known]
    start = len(parent.notes) + 1
    notes = (
        VersionNote(id=f"note-{number}", kind=kind, text=text[:_LONGEST_NOTE]) for number, (kind, text) in enumerate(fresh, start)
    )
    return (*parent.notes, *notes)[:_MOST_NOTES]


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
