"""Which layers each named ingredient is in: proposed by brackets and families, corrected by the user."""

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from fern_match.core.families import Families, Family, Role
from fern_match.core.families.admission import (
    Grade,
    all_opened_families,
    best_role,
    grade,
    is_usual,
    misfit,
    opened_families,
)
from fern_match.core.label.statement import Statement
from fern_match.core.study.brackets import assigned_brackets, chocolate_role, open_brackets
from fern_match.core.study.naming import is_chocolate
from fern_match.core.study.record import Layer, Meaning, Whereabouts

_WRONG_KIND = 2.0  # in misfit: a required part of the kind is missing from its bracket
# Log odds of a place: usual in its role, usual in a required one, serving it only as kin of what the family lists.
_USUAL_ODDS, _USUAL_REQUIRED_ODDS, _KIN_ODDS = 0.8, 1.8, -2.0
_ABSENT_ODDS = -1.5  # serving a role that is usually not there, of a name that is at home in another layer
_KIN_FROM = 0.05  # a role that never holds so much takes only what it lists [g/g]
WATER_ROLE, ANY_ROLE = "water", "other"
_MAIN_FROM = 0.5  # a role that is at least so much of a layer is what the layer is [g/g]
_OWN_KIND = 0.6  # in misfit: the kind that the family itself names
_ONE_CHOCOLATE, _SAME_CHOCOLATE = 0.8, 2.5  # in misfit: most pieces hold one chocolate, all the more where no bracket tells two
_BY_ORDER = 2.0  # in misfit: the kind that the order of its list speaks for


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
    in_compound: str | None = None  # the bracket that fixes it
    recipe: str | None = None  # layers that share a bracket, or occur twice, share one recipe by this name


@dataclass(frozen=True, slots=True, kw_only=True)
class Placing:
    """One statement item in one layer."""

    item: str
    layer_id: str
    where: Whereabouts
    source: Source
    slot: Slot | None  # None where the answer is no
    odds: float = 0.0  # log odds beside an ingredient that is merely listed for its role

    @property
    def is_anywhere(self) -> bool:
        """Whether it may be here only because it must be somewhere: no role of any layer takes it."""
        return self.source is Source.FAMILY and self.slot is not None and self.slot.role.name == ANY_ROLE


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
    group: str  # the kind whose brackets it stands in: "vegetable fats (palm, shea)"; empty elsewhere
    in_chocolate: bool  # whether it stands in the brackets of a chocolate


def placed(
    known: Families,
    statement: Statement,
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
    meanings: Mapping[str, Meaning],
    overrides: Mapping[tuple[str, str], Whereabouts],
) -> PlacingTable:
    """Where each named ingredient is: yes, no or maybe for every layer.

    Args:
        statement: With the brackets of bought ingredients closed.
        ingredient_of: Leaf key -> ingredient id, for the leaves that are known.
        layers: The build with each layer's family.
        meanings: Item key -> how its bracket is read.
        overrides: The user's own answers by (key of a leaf or bracket, layer id); they win.
    """
    brackets = open_brackets(statement, meanings)
    bracket_of = {leaf.key: item.key for item in brackets for leaf in item.leaves()}
    loose = [ingredient_of[leaf.key] for leaf in statement.leaves() if leaf.key in ingredient_of and leaf.key not in bracket_of]
    keys = {item.key for item in brackets}
    said = {pair: where for pair, where in overrides.items() if pair[0] in keys}
    compounds = assigned_brackets(known, brackets, loose, ingredient_of, layers, said)
    group_of = {
        part.key: item.key for item in statement.everything() if meanings.get(item.key) is Meaning.PARTS for part in item.items
    }
    in_chocolate = {
        leaf.key for item in statement.everything() if item.items and is_chocolate(item.name) for leaf in item.leaves()
    }
    names = [
        _Named(
            leaf.key,
            ingredient_of[leaf.key],
            bracket if (bracket := bracket_of.get(leaf.key)) in compounds else None,
            group_of.get(leaf.key, ""),
            leaf.key in in_chocolate,
        )
        for leaf in statement.leaves()
        if leaf.key in ingredient_of
    ]
    opened = _opened_chocolates(known, names, layers, compounds)
    placings = _from_brackets(known, names, layers, opened, compounds)
    placings |= _from_families(known, [name for name in names if name.compound is None], layers, opened, compounds)
    for (item, layer_id), where in overrides.items():
        if item not in keys:
            placings[item, layer_id] = _overridden(known, item, layer_id, where, placings, ingredient_of, layers, opened)
    recipes = _recipes(layers, compounds)
    return PlacingTable(tuple(_in_recipe(one, recipes) for one in placings.values()), opened, compounds)


def _recipes(layers: Sequence[tuple[Layer, Family]], compounds: Mapping[str, tuple[str, ...]]) -> dict[str, str]:
    """Layer id -> the name of the recipe it shares with its twins; layers of one family are made alike."""
    by_family: dict[str, list[str]] = {}
    for layer, family in layers:
        by_family.setdefault(family.id, []).append(layer.id)
    described = {layer_id: key for key, fits in compounds.items() for layer_id in fits}
    recipes: dict[str, str] = {}
    for family_id, ids in by_family.items():
        if len({described.get(layer_id) for layer_id in ids}) == 1 and len(ids) > 1:
            recipes |= dict.fromkeys(ids, f"family {family_id}")
    return recipes


def _in_recipe(placing: Placing, recipes: Mapping[str, str]) -> Placing:
    slot = placing.slot
    recipe = recipes.get(placing.layer_id) or (slot.in_compound if slot else None)
    return replace(placing, slot=replace(slot, recipe=recipe)) if slot is not None and recipe is not None else placing


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
        own = [name for name in names if name.compound is not None and layer.id in compounds[name.compound]]
        inside, in_list = [name.ingredient_id for name in own if name.in_chocolate], False
        loose = [name.ingredient_id for name in names if name.compound is None]
        if own and not inside:
            if role.optional or any(grade(known, role, name.ingredient_id) is Grade.LISTED for name in own):
                continue  # its list opens no chocolate
            inside, in_list = [name.ingredient_id for name in own], True
        if not inside and (not loose or any(grade(known, role, name) is Grade.LISTED for name in loose)):
            continue
        if role.optional and not inside and (opened or _explained(known, family, loose)):
            continue  # its own roles explain the names; a chocolate inside is not called for
        in_bracket = any(grade(known, role, name) is Grade.NONE for name in inside)
        names_in = inside if in_bracket else [*loose, *inside]
        best = _best_opened(known, family, role, names_in, tuple(opened.values()), in_bracket=in_bracket, in_list=in_list)
        if best is not None:
            opened[layer.id] = best
    return opened


def _explained(known: Families, family: Family, names: Sequence[str]) -> bool:
    """Whether every required role of a family is served by a name."""
    required = [role for role in family.roles if not role.optional and role.name != WATER_ROLE]
    return all(any(grade(known, role, name) is Grade.LISTED for name in names) for role in required)


def _best_opened(
    known: Families,
    family: Family,
    role: Role,
    ingredient_ids: Sequence[str],
    used: Sequence[Family],
    *,
    in_bracket: bool,
    in_list: bool,
) -> Family | None:
    """The open family that explains a chocolate best; one already in the piece is preferred.

    Args:
        in_bracket: Whether names stand in the chocolate's own bracket, or its layer's.
        in_list: Whether that is the layer's, without one for its chocolate.
    """

    def cost(candidate: Family) -> float:
        prefers = _ONE_CHOCOLATE if in_bracket else _SAME_CHOCOLATE
        own_kind = _OWN_KIND * any(kind in family.id and kind in candidate.id for kind in ("milk", "dark", "white"))
        own_kind += _BY_ORDER * (in_list and _leads(ingredient_ids) == candidate.chocolate)
        return misfit(known, candidate, ingredient_ids, complete=in_bracket) - prefers * (candidate in used) - own_kind

    best = min(opened_families(known, role), key=cost, default=None)
    if in_bracket and (best is None or cost(best) > _WRONG_KIND):
        best = min(all_opened_families(known), key=cost)  # the bracket shows another kind than the family's name
    return None if best is None or (role.optional and cost(best) > 1.0) else best


def _leads(ingredient_ids: Sequence[str]) -> str:
    """The kind of chocolate that a list in falling order speaks for: dark where cocoa mass stands before all milk."""
    mass = next((at for at, name in enumerate(ingredient_ids) if name == "cocoa-mass"), None)
    milk = next((at for at, name in enumerate(ingredient_ids) if "milk" in name or name == "whey-powder"), None)
    return "" if mass is None or milk is None else "dark" if mass < milk else "milk"


def _from_brackets(
    known: Families,
    names: Sequence[_Named],
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[tuple[str, str], Placing]:
    placings: dict[tuple[str, str], Placing] = {}
    opened_inside = {name.compound: True for name in names if name.in_chocolate}
    for name in names:
        if name.compound is None:
            continue
        for layer, family in layers:
            inside = layer.id in compounds[name.compound]
            chocolate = opened.get(layer.id) if name.in_chocolate or not opened_inside.get(name.compound) else None
            slot = _slot(known, name.ingredient_id, layer, family, chocolate, name.compound) if inside else None
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
    other = Role(name=ANY_ROLE, least=0.0, typical=0.04, most=0.3, optional=True, admits=(), default_id="")
    return Slot(layer_id=layer.id, role=other, in_compound=compound)


def _from_families(
    known: Families,
    loose: Sequence[_Named],
    layers: Sequence[tuple[Layer, Family]],
    opened: Mapping[str, Family],
    compounds: Mapping[str, tuple[str, ...]],
) -> dict[tuple[str, str], Placing]:
    """Unbracketed names: wherever a role lists them, by how usual they are in it, and as unlikely kin elsewhere."""
    described = _described_layers(layers, opened, compounds)
    found: dict[tuple[str, str], tuple[Slot, float, Grade]] = {}
    for name in loose:
        for layer, family in layers:
            slot = _loose_slot(known, name.ingredient_id, layer, family, opened.get(layer.id), described.get(layer.id))
            if slot is not None:
                how = grade(known, slot.role, name.ingredient_id)
                found[name.key, layer.id] = (slot, _odds(slot, name.ingredient_id, how), how)
    _usually_absent(found)
    _with_their_group(loose, layers, found)
    _out_of_hosts(layers, found)
    at_home = {item for (item, _), (_, _, how) in found.items() if how is Grade.LISTED}
    listed = {(slot.layer_id, slot.role.name) for slot, _, how in found.values() if how is Grade.LISTED}
    kept = {
        pair: entry
        for pair, entry in found.items()
        if entry[2] is Grade.LISTED or pair[0] not in at_home or _takes_kin(entry[0], listed)
    }
    homeless = {name.key for name in loose if not any(item == name.key for item, _ in kept)}
    for name in loose:  # a known name is somewhere, though no role is made for it
        if name.key in homeless:
            kept |= {(name.key, layer.id): (_any_slot(layer), 0.0, Grade.NONE) for layer in _open_to_any(layers, described)}
    homes = Counter(item for item, _ in kept)
    rivals = Counter((slot.layer_id, slot.role.name) for slot, _, _ in kept.values())
    placings = {}
    for name in loose:
        for layer, _ in layers:
            entry = kept.get((name.key, layer.id))
            alone = entry is not None and not entry[0].role.optional and rivals[layer.id, entry[0].role.name] == 1
            placings[name.key, layer.id] = _proposal(name.key, layer.id, entry, sure=alone or homes[name.key] == 1)
    return placings


def _open_to_any(layers: Sequence[tuple[Layer, Family]], described: Mapping[str, str]) -> list[Layer]:
    """Layers that may hold a name that no role takes: those that no list describes, and rather not a coat."""
    free = [pair for pair in layers if described.get(pair[0].id) != "whole"] or list(layers)
    return [layer for layer, family in free if family.place != "coat"] or [layer for layer, _ in free]


def _takes_kin(slot: Slot, listed: Collection[tuple[str, str]]) -> bool:
    """Whether a role may hold what only does the work of what it lists."""
    if slot.role.most < _KIN_FROM:
        return False
    return (slot.layer_id, slot.role.name) not in listed or (slot.opened is None and not slot.role.is_whole)


def _usually_absent(found: dict[tuple[str, str], tuple[Slot, float, Grade]]) -> None:
    """A role that is usually not there takes a name that is at home elsewhere only now and then."""
    at_home = {item for (item, _), (slot, _, how) in found.items() if how is Grade.LISTED and slot.role.typical > 0}
    for pair, (slot, _, how) in found.items():
        if how is Grade.LISTED and slot.role.optional and slot.role.typical <= 0 and pair[0] in at_home:
            found[pair] = (slot, _ABSENT_ODDS, how)


def _with_their_group(
    loose: Sequence[_Named], layers: Sequence[tuple[Layer, Family]], found: dict[tuple[str, str], tuple[Slot, float, Grade]]
) -> None:
    """The parts of one kind go together: where palm oil is listed, the palm kernel oil of the same brackets may be."""
    for name in loose:
        for layer, _ in layers:
            here = found.get((name.key, layer.id))
            if not name.group or (here is not None and here[2] is Grade.LISTED):
                continue
            siblings = [found.get((other.key, layer.id)) for other in loose if other.group == name.group]
            listed = next((entry for entry in siblings if entry is not None and entry[2] is Grade.LISTED), None)
            if listed is not None:
                found[name.key, layer.id] = (listed[0], 0.0, Grade.LISTED)


def _out_of_hosts(layers: Sequence[tuple[Layer, Family]], found: dict[tuple[str, str], tuple[Slot, float, Grade]]) -> None:
    """What an inclusion is made of is weighed with it, not with the layer around it."""
    for layer, _ in layers:
        if layer.place != "inclusion" or layer.host is None:
            continue
        for item in [item for (item, layer_id), entry in found.items() if layer_id == layer.id and _is_main(entry)]:
            found.pop((item, layer.host), None)


def _is_main(entry: tuple[Slot, float, Grade]) -> bool:
    slot, _, how = entry
    return how is Grade.LISTED and not slot.role.optional and slot.role.least >= _MAIN_FROM


def _odds(slot: Slot, ingredient_id: str, how: Grade) -> float:
    if how is Grade.KIN:
        return _KIN_ODDS
    if is_usual(slot.role, ingredient_id):
        return _USUAL_ODDS if slot.role.optional else _USUAL_REQUIRED_ODDS
    return 0.0


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


def _loose_slot(
    known: Families,
    ingredient_id: str,
    layer: Layer,
    family: Family,
    opened: Family | None,
    described: str | None,
) -> Slot | None:
    if described == "whole":
        return None
    slot = _slot(known, ingredient_id, layer, family, None if described == "chocolate" else opened, None)
    if slot is not None and slot.opened is not None and grade(known, slot.role, ingredient_id) is not Grade.LISTED:
        return slot if not slot.role.optional and slot.opened.diet != "sugar-free" else None
    return slot


def _proposal(item: str, layer_id: str, entry: tuple[Slot, float, Grade] | None, *, sure: bool) -> Placing:
    if entry is None:
        return Placing(item=item, layer_id=layer_id, where=Whereabouts.NO, source=Source.FAMILY, slot=None)
    slot, odds, _ = entry
    where = Whereabouts.YES if sure else Whereabouts.MAYBE
    return Placing(item=item, layer_id=layer_id, where=where, source=Source.FAMILY, slot=slot, odds=0.0 if sure else odds)


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
    return Placing(
        item=item, layer_id=layer_id, where=where, source=Source.USER, slot=None if where is Whereabouts.NO else slot, odds=0.0
    )
