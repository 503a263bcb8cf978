"""What a proposal does: to the eater, to the cook, to label and allergens, and what people must be told."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.offer import gives_taste
from fern_match.core.adapt.propose import Proposal, load_of_serving
from fern_match.core.adapt.rules import Rule, amount_for, resolved
from fern_match.core.adapt.swaps import Swap, becomes
from fern_match.core.families import Families, Family
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.together import Allergens, allergens_in_words, allergens_of, listed
from fern_match.core.food.tolerance import load_in_words
from fern_match.core.formulate import Formula, FormulaLayer, Property, WeightEnd, cook_end, cost_of, weight_words
from fern_match.core.formulate.judging.to_say import to_say
from fern_match.core.formulate.record.properties import amount_of, fat_by_kind
from fern_match.core.physics.fats import solid_fat_g
from fern_match.core.physics.grain import crystals
from fern_match.core.study.reading import StudyReading

_NOTICED = 0.03  # relative: less of a difference is not told
_COOLS = 40.0  # kJ in a kg of piece, from which the mouth feels it: more than twice what table sugar takes (approximate)
_A_GOOD_PART = 0.05  # of a layer: what makes so much of it is missed where it goes
_AFTERTASTE = 0.15  # of the sweetness, from which intense sweeteners are tasted as what they are


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """One property of the version and of a proposal."""

    what: str
    unit: str
    before: float | None
    after: float | None

    @property
    def change(self) -> float | None:
        """By how much it is more; None where one of both is not known."""
        return self.after - self.before if self.before is not None and self.after is not None else None

    @property
    def sentence(self) -> str:
        """In words; empty where nobody would notice."""
        if self.change is None or self.before is None or abs(self.change) <= _NOTICED * max(abs(self.before), 1e-9):
            return ""
        way = "more" if self.change > 0 else "less"
        return f"{self.what}: {self.after:.3g} {self.unit} instead of {self.before:.3g}, {way}."


def differences(
    before: Formula, after: Formula, rules: Sequence[Rule], pantry: Pantry, serving_g: float
) -> tuple[Difference, ...]:
    """Properties side by side: what rules limit, masses, sweetness, fat, solid fat, water, laxative load, cooling, cost.

    Args:
        before: The version.
        after: The proposal.
        rules: That hold.
        pantry: Compositions.
        serving_g: What a serving weighs [g].
    """
    limited = {
        (rule.measure, rule.a_basis): rule
        for asked in rules
        for rule in resolved(asked, before, pantry)
        if rule.measure and rule.limit is not None
    }
    found = [
        Difference(
            what=rule.measure.capitalize(),
            unit=f"{rule.unit} {rule.a_basis}",
            before=amount_for(before, rule, pantry, serving_g)[0],
            after=amount_for(after, rule, pantry, serving_g)[0],
        )
        for rule in limited.values()
    ]
    said = {(one.what, one.unit) for one in found}
    found += [
        Difference(what=f"Weight of {layer.name}", unit="g", before=layer.finished_g, after=other.finished_g)
        for layer, other in zip(before.layers, after.layers, strict=True)
    ]
    for what, name in (
        (Property.SWEETNESS, "Sweetness"),
        (Property.FAT, "Fat"),
        (Property.WATER, "Water"),
        (Property.PROTEIN, "Protein"),
        (Property.SUGARS, "Sugars"),
        (Property.FIBRE, "Fibre"),
    ):
        unit = "g of sugar in 100 g" if what is Property.SWEETNESS else "g in 100 g"
        sides = [_per_100(one, what, pantry) for one in (before, after)]
        if (name, unit) not in said:
            found.append(Difference(what=name, unit=unit, before=sides[0], after=sides[1]))
    solids = [solid_fat_g(fat_by_kind(one.layers, pantry), 20) for one in (before, after)]
    found.append(Difference(what="Solid fat at 20 °C", unit="g a piece", before=solids[0], after=solids[1]))
    found.append(Difference(what="Cooling", unit="kJ/kg", before=cooling(before, pantry), after=cooling(after, pantry)))
    loads = [load_of_serving(one, pantry, serving_g) for one in (before, after)]
    found.append(Difference(what="Laxative doses", unit="a serving", before=loads[0], after=loads[1]))
    costs = [cost_of(one.layers, pantry) for one in (before, after)]
    found.append(Difference(what="Cost", unit="a piece", before=costs[0], after=costs[1]))
    return tuple(found)


def cooling(formula: Formula, pantry: Pantry) -> float:
    """Heat that crystalline polyols of a piece take from the mouth [kJ per kg of piece]; those in syrups are dissolved already.

    Source: heats of solution (approximate).
    """
    taken = 0.0
    for layer in formula.layers:
        for line in layer.ingredients:
            food = pantry.by_id.get(line.ingredient_id)
            if food is None or (food.per_100_g.get(Nutrient.WATER) or 0.0) > 10:
                continue
            taken += line.grams * (food.per_100_g.get(Nutrient.POLYOLS) or 0.0) / 100 * _cools(food)
    return taken / formula.piece_g if formula.piece_g > 0 else 0.0


def process_notes(
    proposal: Proposal, before: Formula, families: Families, pantry: Pantry, *, ends: bool = True
) -> tuple[str, ...]:
    """What changes in the cook: families, end weights, and what each swap asks for.

    What is cooked with polyols, rare sugars or fibre is given a weight: end temperatures of sugar do not hold for it.

    Args:
        proposal: Worked out.
        before: The version.
        families: Their notes.
        pantry: Compositions.
        ends: Whether to say where boils end.
    """
    notes = []
    for layer, was in zip(proposal.formula.layers, before.layers, strict=True):
        if layer.family != was.family and layer.family in families:
            family = families[layer.family]
            notes.append(
                f"{layer.name} becomes {family.name[0].lower()}{family.name[1:]}. {family.note.rstrip('.')}.".replace(". .", ".")
            )
        end = cook_end(layer, families.by_id.get(layer.family), pantry)
        if ends and isinstance(end, WeightEnd):
            notes.append(weight_words(layer.name, end))
        intense = [
            line
            for line in layer.ingredients
            if line.ingredient_id in pantry and pantry[line.ingredient_id].category == "intense-sweetener"
        ]
        late, late_ids = [line.name for line in intense], {line.ingredient_id for line in intense}
        if late and layer.family in families and families[layer.family].heated:
            notes.append(f"{layer.name}: {_late(late, late_ids, families[layer.family])}")
        kind = families.by_id.get(layer.family)
        notes += [
            f"{layer.name}, {listed(names)}: {said}."
            for swap, names, _ in _swaps(proposal, layer)
            for said in [swap.process_for(kind)]
            if said
        ]
    return tuple(dict.fromkeys(notes))


_WATER_SPITS_C = 115.0  # end of a boil from which water in the pan spits, and takes a foam down (approximate)


def _late(names: Sequence[str], ids: Collection[str], family: Family) -> str:
    """When an intense sweetener goes into a layer that is heated: dry where the sugar is hotter than water boils away."""
    if not family.wet and not family.traits.glass:
        return f"rub {listed(names)} into the flour or crumbs first, so that it is everywhere."
    breaks = " Sucralose breaks down above about 120 °C." if any("sucralose" in key for key in ids) else ""
    if family.end_c is not None and family.end_c[1] >= _WATER_SPITS_C:
        return f"stir {listed(names)} in last and dry, off the heat: water in hot sugar spits.{breaks}"
    return f"stir {listed(names)} in last, in a little water.{breaks}"


def _cools(food: Ingredient) -> float:
    """Heat that its crystals take up as they dissolve in the mouth [kJ/kg]."""
    known = crystals().get(food.polyol_kind or "")
    return known.cools_kj_kg if known is not None else 0.0


def changes_for_the_eater(proposal: Proposal, before: Formula, pantry: Pantry) -> tuple[str, ...]:
    """What each swap changes, with how sure that is; what taste is gone; how much of the sweetness is by intense sweeteners.

    Args:
        proposal: Worked out.
        before: The version.
        pantry: Compositions.
    """
    share = _by_intense_sweeteners(proposal.formula, pantry)
    tasted = f"Intense sweeteners carry {100 * share:.0f} % of the sweetness: it lingers and has less body; taste a trial (sure)."
    swapped = tuple(
        dict.fromkeys(
            f"{layer.name}: {listed(names)} in place of {listed([_name(key, pantry) for key in gone])}: "
            f"{swap.changes} ({swap.certainty})."
            for layer in proposal.formula.layers
            for swap, names, gone in _swaps(proposal, layer)
            if swap.changes
        )
    )
    others = [
        f"{layer.name}: {line.name} in place of {listed([_name(key, pantry) for key in line.instead_of])} (rough)."
        for layer in proposal.formula.layers
        for line in proposal.lines[layer.layer_id]
        if line.swap is None and line.instead_of and line.ingredient_id != "water"
    ]
    kinds = [
        f"{layer.name}: {becomes(was.family)[layer.family]} (sure)."
        for layer, was in zip(proposal.formula.layers, before.layers, strict=True)
        if layer.family in becomes(was.family)
    ]
    return (*kinds, *swapped, *others, *_tastes_gone(proposal, before, pantry), *((tasted,) if share >= _AFTERTASTE else ()))


def _tastes_gone(proposal: Proposal, before: Formula, pantry: Pantry) -> list[str]:
    """What a layer tasted of, or was made of to a good part, that is in it no more, and nothing stands in for."""
    found = []
    for layer, was in zip(proposal.formula.layers, before.layers, strict=True):
        now = {line.ingredient_id for line in layer.ingredients}
        stood_in = {key for line in proposal.lines[layer.layer_id] for key in line.instead_of}
        tasted = [line for line in was.ingredients if gives_taste(line, pantry.by_id.get(line.ingredient_id))]
        gone = [line for line in tasted if line.ingredient_id not in now | stood_in]
        found += [f"{layer.name}: {line.name} goes, and nothing stands in for its taste (sure)." for line in gone]
        others = [line for line in was.ingredients if line not in gone and line.ingredient_id not in now | stood_in]
        came = sum(
            line.grams for line in layer.ingredients if line.ingredient_id not in {one.ingredient_id for one in was.ingredients}
        )
        much = [
            line for line in others if line.grams > max(_A_GOOD_PART * was.added_g, 2 * came) and line.ingredient_id != "water"
        ]
        found += [f"{layer.name}: {line.name} goes, and nothing stands in for it (sure)." for line in much]
    return found


def _by_intense_sweeteners(formula: Formula, pantry: Pantry) -> float:
    """The part of a piece's sweetness that comes from intense sweeteners."""
    sweet = [
        (line.grams * (pantry[line.ingredient_id].sweetness or 0.0), pantry[line.ingredient_id].category == "intense-sweetener")
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in pantry
    ]
    total = sum(one for one, _ in sweet)
    return sum(one for one, intense in sweet if intense) / total if total > 0 else 0.0


def _swaps(proposal: Proposal, layer: FormulaLayer) -> list[tuple[Swap, list[str], list[str]]]:
    """A layer's swaps once each, with the names of what came and the ids of what went."""
    found: dict[str, tuple[Swap, list[str], list[str]]] = {}
    for line in proposal.lines[layer.layer_id]:
        if line.swap is not None and line.ingredient_id != "water":
            _, names, gone = found.setdefault(line.swap.id, (line.swap, [], []))
            names.append(line.name)
            gone += [key for key in line.instead_of if key not in gone]
    return list(found.values())


def _name(key: str, pantry: Pantry) -> str:
    return pantry[key].name if key in pantry else key


def warnings(
    proposal: Proposal, before: Formula, rules: Sequence[Rule], reading: StudyReading, serving_g: float
) -> tuple[str, ...]:
    """What people must be told: laxation, dogs, what law or care asks to say, allergens gained, what the rules do not promise.

    Args:
        proposal: Worked out.
        before: The version.
        rules: That it holds to.
        reading: The study, with compositions and families.
        serving_g: What a serving weighs [g].
    """
    pantry = reading.pantry
    found = []
    ids = {line.ingredient_id for layer in proposal.formula.layers for line in layer.ingredients}
    if any(pantry[key].polyol_kind == "xylitol" for key in ids if key in pantry):
        found.append("Xylitol can kill a dog, even a small amount: say so on every piece.")
    if said := load_in_words(proposal.load, f"A serving of {serving_g:.0f} g"):
        found.append(said)
    found += to_say(proposal.formula, reading.study.region, serving_g, pantry, reading.families)
    if cooling(proposal.formula, pantry) > _COOLS:
        found.append("Crystalline polyols cool the mouth: grind them fine, or dissolve them first.")
    found += _fixed_and_gone(proposal, before)
    now, was = _allergens(proposal.formula, pantry), _allergens(before, pantry)
    gained, lost = (sorted(set(one.holds) - set(other.holds)) for one, other in ((now, was), (was, now)))
    if gained:
        found.append(f"Allergens gained: {', '.join(gained)}.")
    if lost and now.known:
        found.append(f"Allergens no longer in it by the pantry: {', '.join(lost)}. That says nothing of traces.")
    if not now.known:
        asked = allergens_in_words(replace(now, holds=()))
        found.append(f"{asked} Read it also for {', '.join(lost) or 'traces'}.")
    found += proposal.unexplained
    found += _questions(proposal, pantry)
    for lines in proposal.lines.values():
        for line in lines:
            if line.swap is not None and line.swap.warns and line.ingredient_id == line.swap.to[0]:
                found.append(f"{line.name}: {line.swap.warns}.")
    for rule in rules:
        found.append(
            f"{rule.name} promises {rule.promises_not}."
            if rule.promises_not.startswith(("nothing", "no "))
            else f"{rule.name}: {rule.promises_not}."
        )
        if rule.measure and rule.limit is not None:
            got, most = amount_for(proposal.formula, rule, pantry, serving_g)
            wanted = "asked for" if rule.least else "allowed"
            words = (
                f"{rule.measure.capitalize()} {got:.3g} {rule.unit} {rule.a_basis} by the table, where {most:.3g} are {wanted}"
            )
            found.append(f"{words}: have it measured before you claim it.")
    return tuple(dict.fromkeys(found))


def _questions(proposal: Proposal, pantry: Pantry) -> list[str]:
    """What stays though its maker must be asked, and what stays though nobody knows what it is."""
    names = {line.ingredient_id: line.name for layer in proposal.formula.layers for line in layer.ingredients}
    asked = [names[key] for key in proposal.doubtful if key in pantry]
    strange = [names[key] for key in proposal.doubtful if key not in pantry]
    said = [f"Ask the maker of {listed(asked)} before you rely on it; the question stands."] if asked else []
    return said + (
        [f"Nothing is known of {listed(strange)}: whether it may be in this is for you to find out."] if strange else []
    )


def _fixed_and_gone(proposal: Proposal, before: Formula) -> list[str]:
    """Amounts that were fixed, and that a rule takes out all the same."""
    fixed = {(layer.layer_id, line.ingredient_id) for layer in proposal.formula.layers for line in layer.ingredients}
    gone = [
        f"{line.name} in {layer.name}"
        for layer in before.layers
        for line in layer.ingredients
        if line.locked and line.grams > 0 and (layer.layer_id, line.ingredient_id) not in fixed
    ]
    if gone:
        return [f"Fixed amounts that the rule takes out: {listed(gone)}. All others are as they were fixed."]
    return []


def _per_100(formula: Formula, what: Property, pantry: Pantry) -> float:
    return 100 * amount_of(formula.layers, what, pantry) / formula.piece_g if formula.piece_g > 0 else 0.0


def _allergens(formula: Formula, pantry: Pantry) -> Allergens:
    lines = [line for layer in formula.layers for line in layer.ingredients if line.there]
    found = allergens_of(pantry[line.ingredient_id] for line in lines if line.ingredient_id in pantry)
    strangers = tuple(line.name for line in lines if line.ingredient_id not in pantry)
    return replace(found, not_known=(*found.not_known, *strangers))
