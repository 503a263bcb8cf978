"""Which layers each named ingredient is in: proposed by brackets and families, corrected by the user."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.families import Families, Family, Role
from fern_match.core.families.admission import (
    Grade,
    all_opened_families,
    best_role,
    grade,
    misfit,
    opened_families,
)
from fern_match.core.label.statement import Statement
from fern_match.core.study.brackets import assigned_brackets, chocolate_role
from fern_match.core.study.record import Layer, Whereabouts

_WRONG_KIND = 2.0  # in misfit: a required part of the kind is missing from its bracket
_ONE_CHOCOLATE = 0.8  # in misfit: most pieces hold one chocolate


class Source(StrEnum):
    """Who says so."""

    USER = "user"
    BRACKETS = "brackets"
    FAMILY = "family"


@dataclass(frozen=True, slots=True, kw_only=True)
class Slot:
    """A place for an ingredient in a layer: the role it serves, inside an opened chocolate or not."""

    layer_id: str
    role: Role
    opened: Family | None = None  # the chocolate whose role this is
    within: Role | None = None  # the layer's own role that the opened chocolate fills
    in_compound: str | None = None  # the bracket that fixes it; one bracket in two layers has one recipe


@dataclass(frozen=True, slots=True, kw_only=True)
class Placing:
    """One statement item in one layer."""

    item: str
    layer_id: str
    where: Whereabouts
    source: Source
    slot: Slot | None  # None where the answer is no


@dataclass(frozen=True, slots=True)
class PlacingTable:
    """Every item against every layer, and which chocolates are read as opened."""

    placings: tuple[Placing, ...]
    opened: Mapping[str, Family]  # layer id -> the open family its chocolate is read as
    compounds: Mapping[str, tuple[str, ...]]  # compound key -> layers it was given to


@dataclass(frozen=True, slots=True)
class _Named:
    """A statement leaf with its ingredient."""

    key: str
    ingredient_id: str
    compound: str | None


def placed(
    known: Families,
    statement: Statement,
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
    overrides: Mapping[tuple[str, str], Whereabouts],
) -> PlacingTable:
    """Where each named ingredient is: yes, no or maybe for every layer.

    Args:
        ingredient_of: Leaf key -> ingredient id, for the leaves that are known.
        layers: The build with each layer's family.
        overrides: The user's own answers by (leaf key, layer id); they win.
    """
    compounds = assigned_brackets(known, statement, ingredient_of, layers)
    names = _named(statement, ingredient_of, compounds)
    opened = _opened_chocolates(known, names, layers, compounds)
    placings = _from_brackets(known, names, layers, opened, compounds)
    placings |= _from_families(known, [name for name in names if name.compound is None], layers, opened, compounds)
    for (item, layer_id), where in overrides.items():
        placings[item, layer_id] = _overridden(known, item, layer_id, where, placings, ingredient_of, layers, opened)
    return PlacingTable(tuple(placings.values()), opened, compounds)


def better_family(
    known: Families,
    family: Family,
    candidates: Sequence[Family],
    ingredient_ids: Sequence[str],
    *,
    complete: bool,
) -> Family | None:
    """A variant that explains the named ingredients clearly better than the family chosen; None when there is none.

    Args:
        ingredient_ids: What may be in the layer.
        complete: Whether the layer has its own bracket.
    """
    here = misfit(known, family, ingredient_ids, complete=complete)
    best = min(candidates, key=lambda other: misfit(known, other, ingredient_ids, complete=complete), default=family)
    return best if misfit(known, best, ingredient_ids, complete=complete) < here - 1.0 else None


def _named(statement: Statement, ingredient_of: Mapping[str, str], compounds: Mapping[str, tuple[str, ...]]) -> list[_Named]:
    names = []
    for item in statement.items:
        compound = item.key if item.key in compounds else None
        names += [_Named(leaf.key, ingredient_of[leaf.key], compound) for leaf in item.leaves() if leaf.key in ingredient_of]
    return names


def _opened_chocolates(
    known: Families,
    names: Sequence[_Named],
    layers: Sequence[tuple[Layer, Family]],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[str, Family]:
    """For each layer whose chocolate no bought chocolate on the statement explains, the open family that fits best."""
    opened: dict[str, Family] = {}
    for layer, family in sorted(layers, key=lambda pair: len(pair[1].roles) > 1):  # coats say which chocolate is in the house
        role = chocolate_role(family)
        if role is None:
            continue
        whole = [name.ingredient_id for name in names if name.compound is None or layer.id in compounds[name.compound]]
        bracket = [name.ingredient_id for name in names if name.compound is not None and layer.id in compounds[name.compound]]
        if not whole or (any(grade(known, role, name) is Grade.LISTED for name in whole) and not bracket):
            continue
        in_bracket = any(grade(known, role, name) is Grade.NONE for name in bracket)
        best = _best_opened(known, role, bracket if in_bracket else whole, tuple(opened.values()), in_bracket=in_bracket)
        if best is not None:
            opened[layer.id] = best
    return opened


def _best_opened(
    known: Families,
    role: Role,
    ingredient_ids: Sequence[str],
    used: Sequence[Family],
    *,
    in_bracket: bool,
) -> Family | None:
    """The open family that explains a chocolate best; one already in the piece is preferred."""

    def cost(candidate: Family) -> float:
        return misfit(known, candidate, ingredient_ids, complete=in_bracket) - _ONE_CHOCOLATE * (candidate in used)

    best = min(opened_families(known, role), key=cost, default=None)
    if in_bracket and (best is None or cost(best) > _WRONG_KIND):
        best = min(all_opened_families(known), key=cost)  # the bracket shows another kind than the family's name
    return None if best is None or (role.optional and cost(best) > 1.0) else best


def _from_brackets(
    known: Families,
    names: Sequence[_Named],
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[tuple[str, str], Placing]:
    placings: dict[tuple[str, str], Placing] = {}
    for name in names:
        if name.compound is None:
            continue
        for layer, family in layers:
            inside = layer.id in compounds[name.compound]
            slot = _slot(known, name.ingredient_id, layer, family, opened.get(layer.id), name.compound) if inside else None
            placings[name.key, layer.id] = Placing(
                item=name.key,
                layer_id=layer.id,
                where=Whereabouts.YES if inside else Whereabouts.NO,
                source=Source.BRACKETS,
                slot=(slot or _any_slot(layer, name.compound)) if inside else None,
            )
    return placings


def _slot(
    known: Families,
    ingredient_id: str,
    layer: Layer,
    family: Family,
    opened: Family | None,
    compound: str | None,
) -> Slot | None:
    """The best role for an ingredient in a layer: its own roles, or those of its opened chocolate."""
    chocolate = chocolate_role(family)
    own = best_role(known, [role for role in family.roles if not (opened and role is chocolate)], ingredient_id)
    inner = best_role(known, opened.roles, ingredient_id) if opened else None
    prefers_inner = inner is not None and (own is None or inner[1] > own[1] or (compound is not None and inner[1] >= own[1]))
    if prefers_inner and inner is not None:
        return Slot(layer_id=layer.id, role=inner[0], opened=opened, within=chocolate, in_compound=compound)
    return Slot(layer_id=layer.id, role=own[0], in_compound=compound) if own else None


def _any_slot(layer: Layer, compound: str | None = None) -> Slot:
    """A place for what no role takes, when the user or a bracket says it is there."""
    other = Role(name="other", least=0.0, typical=0.04, most=0.3, optional=True, admits=(), default_id="")
    return Slot(layer_id=layer.id, role=other, in_compound=compound)


def _from_families(
    known: Families,
    loose: Sequence[_Named],
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[tuple[str, str], Placing]:
    """Unbracketed names: wherever a role lists them; kin only where a required role, or the name, would go without."""
    described = _described_layers(layers, opened, compounds)
    slots: dict[tuple[str, str], tuple[Slot, Grade]] = {}
    for name in loose:
        for layer, family in layers:
            for slot in _slots(known, name.ingredient_id, layer, family, opened.get(layer.id), described.get(layer.id)):
                slots.setdefault((name.key, layer.id), (slot, grade(known, slot.role, name.ingredient_id)))
    listed = {pair for pair, (_, how) in slots.items() if how is Grade.LISTED}
    needed = {pair for pair in slots if pair not in listed and _fills_vacancy(pair, slots)}
    homed = {item for item, _ in listed | needed}
    homeless = {pair for pair in slots if pair[0] not in homed}
    chosen = listed | needed | homeless
    return {(name.key, layer.id): _proposal(name.key, layer.id, chosen, slots) for name in loose for layer, _ in layers}


def _described_layers(
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[str, str]:
    """Layers that a bracket describes: "whole", or only their "chocolate"."""
    described: dict[str, str] = {}
    families = {layer.id: family for layer, family in layers}
    for given in compounds.values():
        for layer_id in given:
            only_chocolate = layer_id in opened and len(families[layer_id].roles) > 1
            described.setdefault(layer_id, "chocolate" if only_chocolate else "whole")
    return described


def _slots(
    known: Families,
    ingredient_id: str,
    layer: Layer,
    family: Family,
    opened: Family | None,
    described: str | None,
) -> list[Slot]:
    if described == "whole":
        return []
    slot = _slot(known, ingredient_id, layer, family, None if described == "chocolate" else opened, None)
    return [slot] if slot else []


def _fills_vacancy(pair: tuple[str, str], slots: Mapping[tuple[str, str], tuple[Slot, Grade]]) -> bool:
    slot, _ = slots[pair]
    if slot.role.optional:
        return False
    return not any(
        how is Grade.LISTED and other.layer_id == slot.layer_id and other.role is slot.role for other, how in slots.values()
    )


def _proposal(
    item: str,
    layer_id: str,
    chosen: set[tuple[str, str]],
    slots: Mapping[tuple[str, str], tuple[Slot, Grade]],
) -> Placing:
    if (item, layer_id) not in chosen:
        return Placing(item=item, layer_id=layer_id, where=Whereabouts.NO, source=Source.FAMILY, slot=None)
    slot = slots[item, layer_id][0]
    homes = sum(1 for other, _ in chosen if other == item)
    rivals = [pair for pair in chosen if pair[1] == layer_id and slots[pair][0].role is slot.role and pair[0] != item]
    alone = not slot.role.optional and not rivals and not (slot.within and slot.within.optional)
    sure = homes == 1 or alone
    return Placing(
        item=item,
        layer_id=layer_id,
        where=Whereabouts.YES if sure else Whereabouts.MAYBE,
        source=Source.FAMILY,
        slot=slot,
    )


def _overridden(
    known: Families,
    item: str,
    layer_id: str,
    where: Whereabouts,
    placings: Mapping[tuple[str, str], Placing],
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
) -> Placing:
    before = placings.get((item, layer_id))
    slot = before.slot if before else None
    found = next(((layer, family) for layer, family in layers if layer.id == layer_id), None)
    if where is not Whereabouts.NO and slot is None and found is not None and item in ingredient_of:
        slot = _slot(known, ingredient_of[item], *found, opened.get(layer_id), None) or _any_slot(found[0])
    return Placing(item=item, layer_id=layer_id, where=where, source=Source.USER, slot=None if where is Whereabouts.NO else slot)
